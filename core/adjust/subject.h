// What an adjustment that measures the photo looks at: the picture as it arrives at it, and where the mask of its
// correction lies, on any level.
//
// Reading throws base::Cancelled where the measuring is stopped.
#pragma once

#include <vector>

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

// The tiles, of 128 pixels of the level, that what is true of the photo as a whole is measured on: of those that the
// mask covers some of, or of all of them, as many as will do, evenly.
std::vector<base::Rect> measuredTiles(const Subject& subject, int level, bool everywhere);

// They are shown to a meter that gathers pictures and, where the mask matters, their coverage.
template <class Meter>
void showTiles(const Subject& subject, int level, bool everywhere, Meter& meter) {
    for (const base::Rect& tile : measuredTiles(subject, level, everywhere)) {
        meter.add(subject.picture(tile, level), everywhere ? image::Plane<float>() : subject.coverage(tile, level));
    }
}

}  // namespace dimhem::adjust
