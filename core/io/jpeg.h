// JPEG (ITU-T T.81) through libjpeg-turbo: 8 bits, grey or RGB; printing inks are read as linear light. A file that
// ends too early is read as far as it goes, with a warning.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

extern const Format jpeg;

}  // namespace dimhem::io
