// Mattes on their way between files and documents.
#pragma once

#include <filesystem>
#include <functional>
#include <optional>

#include "core/document/document.h"
#include "core/io/format.h"
#include "core/mask/matte.h"

namespace dimhem::task {

// A picture as a matte part: grey as it is, colours by their luma, 8 bits widened to 16.
base::Result<std::shared_ptr<const mask::Matte>> readMatte(const std::filesystem::path& path,
                                                           const io::Reading& reading = {});
base::Result<mask::MattePixels> mattePixels(io::Bytes bytes, std::string_view shownName,
                                            const io::Reading& reading = {});

// A matte as a 16-bit grey PNG file.
std::vector<std::uint8_t> mattePng(const image::Plane<std::uint16_t>& pixels);

// The document with every matte that names a file filled in: `read` gives the bytes of a name, or nothing. What cannot
// be read stays unread; `missing` then says which.
document::DocumentPtr withMattes(
    const document::DocumentPtr& document,
    const std::function<std::optional<std::vector<std::uint8_t>>(const std::string&)>& read, std::string& missing,
    const io::Reading& reading = {});

// The document with each matte named as an entry of its zip file, and those entries.
struct PackedMattes {
    document::DocumentPtr document;
    std::vector<std::pair<std::string, std::vector<std::uint8_t>>> entries;
};
PackedMattes packedMattes(const document::DocumentPtr& document);

}  // namespace dimhem::task
