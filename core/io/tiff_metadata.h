// Metadata among the tags of a TIFF file (TIFF 6.0; XMP specification part 3; Exif 2.32).
#pragma once

#include <tiffio.h>

#include "core/io/format.h"

namespace dimhem::io {

// XMP, IPTC and the entries that stand beside the picture's own, with the other tags before the first strip.
void describeTiff(TIFF* tiff, const image::Metadata& metadata, Notes& notes);

// Exif and GPS, each a list of entries of its own, written after the last strip; false: errno says why not.
bool appendTiffExif(TIFF* tiff, const image::Metadata& metadata, Notes& notes);

}  // namespace dimhem::io
