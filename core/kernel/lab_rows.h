// CIELAB over rows: the fast form of colour/lab.h.
#pragma once

#include <cstddef>
#include <span>

#include "core/colour/types.h"
#include "core/kernel/rgb_row.h"

namespace dimhem::kernel {

// Largest error of L*, a* and b* against the reference for values in [-1, 2].
inline constexpr double labMaxError = 2e-3;

// In place: red becomes L*, green a*, blue b* (CIE 15:2004; the matrix and white of colour/lab.h).
void labRow(EncodedRow pixels, std::size_t count);

// L* alone.
void lightnessRow(ConstEncodedRow pixels, float* lightness, std::size_t count);

// The distance of each pixel of a row of labRow() to the nearest of the colours, L* counting `toneWeight` times; a very
// large one where there are none.
void nearestColourRow(const float* l, const float* a, const float* b, std::span<const colour::Lab> colours,
                      float toneWeight, float* distance, std::size_t count);

}  // namespace dimhem::kernel
