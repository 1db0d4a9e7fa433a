// TIFF 6.0 through libtiff: 8 and 16 bit integers and 32-bit floats, grey or RGB, with or without alpha, in strips or
// tiles, pixel-interleaved or in planes. Palettes and other colour models of 8 bits are read through libtiff's own
// conversion.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

extern const Format tiff;

}  // namespace dimhem::io
