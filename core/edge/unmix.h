// The subject's own colour where it and what is behind it share a pixel.
//
// A pixel of coverage a shows P = a F + (1 - a) B, in linear light. F and B are estimated as the blurred colours of
// what is mostly subject and mostly background near by, then corrected so that they add up to P, first over a wide and
// then over a small radius: as in blur fusion (Forte, Approximate Fast Foreground Colour Estimation, 2021; cited
// from memory). A correction g that is to act on the subject alone then gives P + a (g(F) - F).
//
// Where the coverage is not that of a thing in the photo (a gradient, a feather) the estimate means nothing; nor where
// F and B are alike. How well P and a agree says how far to trust it.
#pragma once

#include "core/image/plane.h"

namespace dimhem::edge {

inline constexpr int unmixReach = 40;  // how far beyond a pixel the estimate looks, in pixels

struct Unmixed {
    image::LinearPlanes own;    // F; P where the coverage is full or none
    image::Plane<float> trust;  // 0..1
};

// `coverage` 0..1, of the size of the picture.
Unmixed unmix(const image::LinearPlanes& picture, const image::Plane<float>& coverage);

}  // namespace dimhem::edge
