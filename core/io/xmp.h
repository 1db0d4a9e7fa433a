// XMP packets (ISO 16684-1), and how JPEG carries those that are larger than one of its segments (XMP specification
// part 3, "Extended XMP in JPEG").
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/rect.h"

namespace dimhem::io {

// The packet with tiff:Orientation 1, since the samples are turned upright; the very same text where it says nothing
// else. Nothing where it is not well-formed.
std::optional<std::string> uprightXmp(const std::string& packet);

// The packet for a picture of another size: where it says how large the picture is, it says so anew. Nothing where it
// is not well-formed.
std::optional<std::string> xmpWithSize(const std::string& packet, base::Size size);

// A packet for JPEG: as it is where it fits into a segment; else a short one that names, by the MD5 of its text, the
// long one, which goes into segments of its own.
struct SplitXmp {
    std::string standard;
    std::string guid;  // 32 hexadecimal digits; empty: there is no extension
    std::string extension;
};
SplitXmp splitXmp(const std::string& packet, std::size_t mostBytes);

// Back again. `extension` gives the long text of a name, or nothing where pieces of it are missing.
struct JoinedXmp {
    std::string packet;
    bool whole = true;  // false: it names an extension that is missing or damaged
};
JoinedXmp joinXmp(const std::string& standard, const std::string& guid, const std::optional<std::string>& extension);

// The name of the extension a standard packet asks for; empty: none.
std::string extensionOf(const std::string& standard);

}  // namespace dimhem::io
