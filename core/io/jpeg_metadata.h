// Metadata in the segments of a JPEG file: Exif and XMP in APP1, IPTC in APP13, a comment in COM.
#pragma once

#include <cstdio>  // jpeglib.h needs it

extern "C" {
#include <jpeglib.h>
}

#include "core/io/format.h"

namespace dimhem::io {

// Right after jpeg_start_compress(). A segment holds 65 533 bytes: XMP beyond goes into extended segments, a long
// comment into several; what fits nowhere is left out and noted.
void writeJpegMetadata(jpeg_compress_struct& info, const image::Metadata& metadata, Notes& notes);

}  // namespace dimhem::io
