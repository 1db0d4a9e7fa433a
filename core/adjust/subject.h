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
    // Whether colours were painted where the mask covers, before this adjustment: then what it is like beside the mask
    // counts.
    virtual bool isPainted() const { return false; }
};

// The tiles, of 128 pixels of the level, that what is true of the photo as a whole is measured on: of those that the
// mask covers some of, or of all of them, as many as will do, evenly.
std::vector<base::Rect> measuredTiles(const Subject& subject, int level, bool everywhere);

// Tiles that touch the mask or lie next to such, evenly, as many as will do.
std::vector<base::Rect> tilesBeside(const Subject& subject, int level);
// Those places of a tile that the mask does not cover, 1, all others 0.
image::Plane<float> uncovered(const Subject& subject, const base::Rect& tile, int level);

// What is beside the mask, shown to a meter of pictures and their coverage.
template <class Meter>
void showBeside(const Subject& subject, int level, Meter& meter) {
    for (const base::Rect& tile : tilesBeside(subject, level))
        meter.add(subject.picture(tile, level), uncovered(subject, tile, level));
}

// They are shown to a meter that gathers pictures and, where the mask matters, their coverage.
template <class Meter>
void showTiles(const Subject& subject, int level, bool everywhere, Meter& meter) {
    for (const base::Rect& tile : measuredTiles(subject, level, everywhere)) {
        meter.add(subject.picture(tile, level), everywhere ? image::Plane<float>() : subject.coverage(tile, level));
    }
}

}  // namespace dimhem::adjust
