// What an adjustment that measures the photo looks at: the picture as it arrives at its correction, and where the
// correction's mask lies, on any level.
//
// Reading throws base::Cancelled where the measuring is stopped.
#pragma once

#include "core/image/plane.h"

namespace dimhem::adjust {

class Subject {
public:
    virtual ~Subject() = default;
    virtual base::Size photoSize() const = 0;
    // `rect` must lie within the level.
    virtual image::EncodedPlanes picture(const base::Rect& rect, int level) const = 0;
    virtual image::Plane<float> coverage(const base::Rect& rect, int level) const = 0;  // 0..1
};

}  // namespace dimhem::adjust
