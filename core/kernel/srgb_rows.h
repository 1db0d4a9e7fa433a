// The sRGB curve over rows, in place: the fast form of colour/srgb.h.
#pragma once

#include <cstddef>

namespace dimhem::kernel {

// Largest error of either direction against the reference for values in [-1, 1], as a part of 1; beyond, relative.
inline constexpr double srgbMaxError = 2e-6;

void encodeRow(float* row, std::size_t count);
void decodeRow(float* row, std::size_t count);

}  // namespace dimhem::kernel
