// The guided filter: a plane smoothed so that its edges fall where the guide's are.
//
// He, Sun, Tang, "Guided Image Filtering", PAMI 2013: equations 5 and 6 with one channel as the guide, 14 to 19 with
// three. `eps` is the variance of the guide below which it counts as flat, in the guide's own units squared. The
// coefficients can be worked out on a coarser level and applied to a finer guide (He and Sun, "Fast Guided Filter",
// 2015).
#pragma once

#include "core/edge/guide.h"

namespace dimhem::edge {

image::Plane<float> guidedByItself(const image::Plane<float>& plane, int radius, double eps);
image::Plane<float> guided(const image::Plane<float>& guide, const image::Plane<float>& plane, int radius, double eps);

// With all three channels of the guide.
image::Plane<float> guided(const Guide& guide, const image::Plane<float>& plane, int radius, double eps);

// The same up to its last step: at each place the line that gives the plane from the guide's colour.
struct Lines {
    image::Plane<float> slope[3], offset;
    // For the colours of a finer picture, whose first pixel lies at that place of this one (pixel centres at .5) and
    // the others every `step`: the plane's values there, 0..1. All places must lie within.
    image::Plane<float> over(const Guide& finer, base::Point first, double step) const;
};

// What of it depends on the guide alone, for many planes.
class Guiding {
public:
    Guiding(Guide guide, int radius, double eps);
    const Guide& guide() const { return guide_; }
    Lines linesFor(const image::Plane<float>& plane) const;
    std::size_t bytes() const { return 12 * guide_.l.bytes(); }

private:
    Guide guide_;
    int radius_;
    image::Plane<float> mean_[3];
    image::Plane<float> inverse_[6];  // of the matrix of covariances, eps added
};

}  // namespace dimhem::edge
