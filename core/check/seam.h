// Seams: where a correction's effect makes a step and the photo has none to hide it.
//
// Looked at over three pixels across and down. A step counts where it can be seen (2 units of L*: common practice for
// a line in a smooth tone) and is more than twice what the photo does of itself within four pixels.
#pragma once

#include "core/image/plane.h"

namespace dimhem::check {

inline constexpr float seenStep = 2;  // of L*, over three pixels

struct Seam {
    double pixels = 0;           // on a seam
    double step = 0;             // the mean step there, of L*
    double edgePixels = 0;       // where the effect makes a step at all, hidden or not
    image::Plane<float> amount;  // the step of each pixel on a seam, else 0
};

// `before` and `after`: L* of the picture before and after the correction.
Seam seamOf(const image::Plane<float>& before, const image::Plane<float>& after);

}  // namespace dimhem::check
