// The sRGB curve over rows, in place: the fast form of colour/srgb.h.
#pragma once

#include <cstddef>

#include "core/kernel/rgb_row.h"

namespace dimhem::kernel {

// Largest error of either direction against the reference for values in [-1, 1], as a part of 1; beyond, relative.
inline constexpr double srgbMaxError = 2e-6;

void encodeRow(float* row, std::size_t count);
void decodeRow(float* row, std::size_t count);

// All three channels of a row, in place; what is returned is the same memory.
LinearRow decoded(EncodedRow row, std::size_t count);
EncodedRow encoded(LinearRow row, std::size_t count);

// The same of planes, in their memory.
image::LinearPlanes decoded(image::EncodedPlanes planes);
image::EncodedPlanes encoded(image::LinearPlanes planes);

}  // namespace dimhem::kernel
