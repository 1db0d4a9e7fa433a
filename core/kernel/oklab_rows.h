// OKLab (Ottosson, "A perceptual color space for image processing", 2020) of rows of encoded sRGB, in place: red,
// green, blue become L (0 black .. 1 white), a, b. Distances between colours of an edge are taken in it.
//
// The cube root is approximated to 1e-6; values below 0 of the cone responses are taken odd-symmetrically.
#pragma once

#include "core/kernel/rgb_row.h"

namespace dimhem::kernel {

void oklabRow(EncodedRow pixels, std::size_t count);

}  // namespace dimhem::kernel
