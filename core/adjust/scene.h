// What an operation that brings colours of its own looks at: the picture as it arrives at it, where the mask of its
// correction lies, and what was painted with that mask. As Subject, but while rendering: everything has a key, and what
// takes long to work out is kept.
//
// Areas may reach beyond the photo, where its edge goes on. Reading throws base::Cancelled where the work is stopped.
// Implemented by the renderer; safe from many threads.
#pragma once

#include <functional>
#include <memory>

#include "core/adjust/covered.h"
#include "core/base/content_key.h"
#include "core/image/plane.h"
#include "core/image/rgba_planes.h"

namespace dimhem::adjust {

// In pixels of a level.
struct LevelArea {
    base::Rect rect;
    int level = 0;
};

class Scene {
public:
    virtual ~Scene() = default;
    virtual base::Size photoSize() const = 0;

    // Equal keys, equal pictures.
    virtual base::ContentKey pictureKey(const LevelArea& area) const = 0;
    virtual image::EncodedPlanes picture(const LevelArea& area) const = 0;
    virtual base::ContentKey coverageKey(const LevelArea& area) const = 0;
    virtual image::Plane<float> coverage(const LevelArea& area) const = 0;  // 0..1

    // Where the pixels of a level are that have at least as much coverage as a hole (core/repair/hole.h).
    virtual std::shared_ptr<const Covered> covered(int level) const = 0;

    // What the parts of the mask that paint have laid down. Where nothing was, alpha is 0.
    virtual base::ContentKey paintedKey(const LevelArea& area) const = 0;
    virtual image::RgbaPlanes painted(const LevelArea& area) const = 0;

    // The first to ask makes it, the others wait; `make` must not ask for its own key again.
    struct Made {
        std::shared_ptr<const void> value;
        std::size_t bytes = 0;
    };
    virtual std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) const = 0;
    virtual void throwIfCancelled() const = 0;
};

}  // namespace dimhem::adjust
