// Exif, IPTC, XMP and embedded ICC profiles of files, through Exiv2.
#pragma once

#include "core/io/format.h"

namespace dimhem::io {

struct EmbeddedMetadata {
    image::Metadata metadata;
    std::vector<std::uint8_t> profile;
    int orientation = 1;  // Exif tag 274, 1..8
};

// What the file carries; nothing at all where it has none or Exiv2 cannot read it: metadata never stops a photo from
// being opened. The orientation in the metadata is set to 1, since the samples are turned upright.
EmbeddedMetadata readMetadata(Bytes bytes);

// Into a finished file; `profile` only where it is not empty.
base::Result<void> writeMetadata(const PendingFile& file, const image::Metadata& metadata, Bytes profile);

// A line for each fact of the exposure that people look for (camera, lens, time, exposure), as "name", "value".
std::vector<std::pair<std::string, std::string>> readableFacts(const image::Metadata& metadata);

}  // namespace dimhem::io
