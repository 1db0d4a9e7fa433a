// Documents made to hurt: small files that ask for much.
#pragma once

#include <zip.h>

#include <cstring>
#include <filesystem>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "tests/support/temp_folder.h"

namespace dimhem::tests {

using ZipEntries = std::vector<std::pair<std::string, std::string>>;

inline std::filesystem::path zipWith(const std::filesystem::path& path, const ZipEntries& entries) {
    int failed = 0;
    zip_t* zip = zip_open(path.c_str(), ZIP_CREATE | ZIP_TRUNCATE, &failed);
    for (const auto& [name, text] : entries)
        zip_file_add(zip, name.c_str(), zip_source_buffer(zip, text.data(), text.size(), 0), ZIP_FL_ENC_UTF_8);
    if (!zip || zip_close(zip) != 0) throw std::runtime_error("the zip file could not be made");
    return path;
}

// The records of a zip file that state an entry's uncompressed size (APPNOTE 4.3.7 and 4.3.12): local and central.
inline void stateSize(std::vector<std::uint8_t>& zip, const std::string& entry, std::uint32_t size) {
    const struct {
        const char* mark;
        std::size_t sizeAt, nameAt;
    } records[] = {{"PK\3\4", 22, 30}, {"PK\1\2", 24, 46}};
    for (std::size_t at = 0; at + 46 < zip.size(); ++at) {
        for (const auto& record : records) {
            const bool here = std::memcmp(&zip[at], record.mark, 4) == 0 &&
                              at + record.nameAt + entry.size() <= zip.size() &&
                              std::memcmp(&zip[at + record.nameAt], entry.data(), entry.size()) == 0;
            if (here) std::memcpy(&zip[at + record.sizeAt], &size, sizeof size);
        }
    }
}

inline std::string documentText(const std::string& corrections, const std::string& more = {}) {
    return R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"},)" + more +
           R"( "corrections": )" + corrections + "}";
}

}  // namespace dimhem::tests
