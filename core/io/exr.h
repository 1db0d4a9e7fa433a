// OpenEXR through its library, as 32-bit floats in linear light with sRGB primaries: colours of other chromaticities
// are converted, luminance with chroma put together, and colours divided by their alpha. Read are the R, G, B (or Y)
// and A channels of the first part that has any, else of a layer, else one other channel as grey; what is left out is
// said. +infinity becomes 65504, what is no number 0.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

extern const Format exr;

}  // namespace dimhem::io
