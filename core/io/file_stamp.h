// Which state a file was last seen in, to notice that another program has written it since.
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>

namespace dimhem::io {

// Device, inode, size and time of the last change; a file that was replaced or written has another stamp.
struct FileStamp {
    std::uint64_t device = 0, inode = 0, bytes = 0;
    std::int64_t changedNs = 0;
    friend bool operator==(const FileStamp&, const FileStamp&) = default;
};

std::optional<FileStamp> stampOf(const std::filesystem::path& path);  // nothing: there is no such file

}  // namespace dimhem::io
