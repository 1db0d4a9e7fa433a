// What an operation that brings colours of its own looks at: the picture as it arrives at it, where the mask of its
// correction lies, and what was painted with that mask. As Subject, but while rendering: everything is a promise
// (core/stage/staged.h), and what takes long to work out is kept.
//
// Areas may reach beyond the photo, where its edge goes on. Reading throws base::Cancelled where the work is stopped.
// Implemented by the renderer; safe from many threads.
#pragma once

#include <memory>

#include "core/adjust/covered.h"
#include "core/base/cancel.h"
#include "core/image/area.h"
#include "core/image/plane.h"
#include "core/image/rgba_planes.h"
#include "core/stage/kept.h"

namespace dimhem::adjust {

using image::Area;
using stage::Reading;
using stage::Staged;
using stage::staged;

class Scene {
public:
    virtual ~Scene() = default;
    virtual base::Size photoSize() const = 0;
    virtual Reading<image::EncodedPlanes> picture(const Area& area) const = 0;
    virtual Reading<image::Plane<float>> coverage(const Area& area) const = 0;  // 0..1
    // What the parts of the mask that paint have laid down. Where nothing was, alpha is 0.
    virtual Staged<image::RgbaPlanes> painted(const Area& area) const = 0;

    // Where the pixels of a level are that have at least as much coverage as a hole (core/repair/hole.h): what is to be
    // read goes by it.
    virtual std::shared_ptr<const Covered> covered(int level) const = 0;

    virtual stage::Store& store() const = 0;
    virtual const base::CancelToken& cancel() const = 0;
};

}  // namespace dimhem::adjust
