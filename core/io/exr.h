// OpenEXR through its library: the R, G, B (or Y) and A channels of the first part, as 32-bit floats in linear light.
// Colours are taken to have sRGB primaries. Values that are not finite become 0.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

extern const Format exr;

}  // namespace dimhem::io
