// PNG (ISO/IEC 15948) through libpng: 8 and 16 bits, grey or RGB, with or without alpha. Palettes and 1, 2 and 4 bit
// pictures are read as 8 bits.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

extern const Format png;

// A whole PNG file in memory, for small pictures; empty where its rows fail.
std::vector<std::uint8_t> pngBytes(const Picture& picture);

}  // namespace dimhem::io
