// Exif, IPTC, XMP and embedded ICC profiles of files, read through Exiv2. Writing them is the matter of each format.
#pragma once

#include <utility>

#include "core/io/format.h"

namespace dimhem::io {

struct EmbeddedMetadata {
    image::Metadata metadata;
    std::vector<std::uint8_t> profile;
    int orientation = 1;  // Exif tag 274, 1..8
};

// What the file carries; nothing at all where it has none or Exiv2 cannot read it: metadata never stops a photo from
// being opened. The orientation in Exif and XMP is set to 1, since the samples are turned upright.
EmbeddedMetadata readMetadata(Bytes bytes);

// The same for a picture of another size: where it says how large the picture is, it says so anew.
image::Metadata withSize(image::Metadata metadata, base::Size size);

// A line for each fact of the exposure that people look for (camera, lens, time, exposure), as "name", "value".
std::vector<std::pair<std::string, std::string>> readableFacts(const image::Metadata& metadata);

// The entries of an Exif block, for formats that store them one by one: little-endian, types as TIFF 6.0 numbers them.
struct ExifEntry {
    enum class Group { image, exif, gps } group;
    std::uint16_t tag, type;
    std::uint32_t count;
    std::vector<std::uint8_t> data;
};
std::vector<ExifEntry> exifEntries(const std::vector<std::uint8_t>& exif);

}  // namespace dimhem::io
