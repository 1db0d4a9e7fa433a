// Reading TIFF; io/tiff.h says what.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

base::Result<Decoded> readTiff(Bytes bytes, const Reading& reading);

}  // namespace dimhem::io
