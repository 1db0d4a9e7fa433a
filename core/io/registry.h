// Every file format, and reading a photo from any of them.
#pragma once

#include <filesystem>

#include "core/io/format.h"

namespace dimhem::io {

std::span<const Format* const> formats();
const Format* formatOf(Bytes start);                         // by signature; null where unknown
const Format* formatByExtension(std::string_view fileName);  // for writing; null where unknown

// A photo, upright, with its profile and metadata. `shownName` stands in the sentences of errors. A profile that does
// not fit or cannot be used is left out, and photo.warnings says so.
base::Result<image::Photo> readPhoto(Bytes bytes, std::string_view shownName, const Reading& reading = {});
base::Result<image::Photo> readPhoto(const std::filesystem::path& path, const Reading& reading = {});

// The bytes of a photo's file. Where it does not begin as a photo those of its beginning alone, which no reader takes:
// a film is not read whole to be refused.
base::Result<std::vector<std::uint8_t>> photoFileBytes(const std::filesystem::path& path);

// A small version, at least `longSidePx` long where the photo is, for a first look; takes little time for JPEG, fails
// for formats that have no fast way.
base::Result<image::Photo> readSmallPhoto(Bytes bytes, std::string_view shownName, int longSidePx);

}  // namespace dimhem::io
