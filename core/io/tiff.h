// TIFF 6.0 through libtiff. Read are whole numbers of 1 to 32 bits and floats of 16, 32 and 64, grey, RGB, palettes,
// CIELAB and CMYK, with or without alpha, in strips or tiles, pixel-interleaved or in planes; the first page that is
// not a reduced one. Further channels and pages are left out, and said to be. Written are 8 and 16 bits and 32-bit
// floats.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

extern const Format tiff;

}  // namespace dimhem::io
