// WebP (RFC 9649) through libwebp: 8 bits, RGB with or without alpha. Of an animation, the first picture.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

extern const Format webp;

}  // namespace dimhem::io
