// The guided filter: a plane smoothed so that its edges fall where the guide's are.
//
// He, Sun, Tang, "Guided Image Filtering", PAMI 2013: equations 5 and 6 with one channel as the guide, 14 to 19 with
// three. `eps` is the variance of the guide below which it counts as flat, in the guide's own units squared. The
// coefficients can be worked out on a coarser level and applied to a finer guide (He and Sun, "Fast Guided Filter",
// 2015).
#pragma once

#include <array>

#include "core/edge/guide.h"

namespace dimhem::edge {

image::Plane<float> guidedByItself(const image::Plane<float>& plane, int radius, double eps);
image::Plane<float> guided(const image::Plane<float>& guide, const image::Plane<float>& plane, int radius, double eps);

// With all three channels of the guide.
image::Plane<float> guided(const Guide& guide, const image::Plane<float>& plane, int radius, double eps);

// The same up to its last step: at each place the line that gives the plane from the guide's colour.
struct Lines {
    image::Plane<float> slope[3], offset;
    // At a place between pixels (centres at .5), for a colour there, say of a finer picture; 0..1.
    float at(double x, double y, const std::array<float, 3>& colour) const;
};
Lines guidingLines(const Guide& guide, const image::Plane<float>& plane, int radius, double eps);

}  // namespace dimhem::edge
