// Dither: noise of one step of a coarser depth, so that rounding to it leaves no bands.
//
// Triangular, the sum of two even ones: its mean and variance after rounding do not depend on the value (Lipshitz,
// Wannamaker and Vanderkooy, "Quantization and dither: a theoretical survey", 1992; cited from memory). It goes by
// the place alone (hash-inl.h): the same place gets the same.
#pragma once

#include "core/kernel/rgb_row.h"

namespace dimhem::kernel {

inline constexpr float eightBitStep = 1.0f / 255;

// Adds noise between -step and step to the channels of pixels that are not those of `unchanged`. The first pixel lies
// at (x, y).
void addDither(EncodedRow pixels, ConstEncodedRow unchanged, std::size_t count, int x, int y, float step);

}  // namespace dimhem::kernel
