// JPEG (ITU-T T.81) through libjpeg-turbo: 8 bits, grey or RGB. CMYK files are refused.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

extern const Format jpeg;

}  // namespace dimhem::io
