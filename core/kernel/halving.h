// Between a plane and one of half its size, whose pixels are the means of squares of four.
#pragma once

#include "core/image/plane.h"

namespace dimhem::kernel {

// The sides must be even.
image::Plane<float> halved(const image::Plane<float>& plane);

// Adds `factor` times a plane of half the size, read bilinearly between the middles of its pixels. The first pixel of
// `out` is the first of the four under pixel (margin, margin) of `half`, which must have a pixel on every side of those
// that `out` lies over.
void addDoubled(const image::Plane<float>& half, int margin, float factor, image::Plane<float>& out);

}  // namespace dimhem::kernel
