// From extended encoded sRGB to the 8-bit pixels of a display or file.
#pragma once

#include <cstddef>
#include <cstdint>

#include "core/kernel/rgb_row.h"

namespace dimhem::kernel {

// 0xffRRGGBB per pixel, rounded to nearest, values outside 0..1 clipped.
void displayRow(ConstEncodedRow picture, std::uint32_t* pixels, std::size_t count);

}  // namespace dimhem::kernel
