// A file kept open from when it was first read: known again by device and inode wherever it has been moved meanwhile,
// and read again as the same file whatever lies at its path now.
//
// What is kept open cannot be given its inode to another file (POSIX, unlink: a file lives until it is closed).
#pragma once

#include <sys/stat.h>

#include <cstdint>
#include <filesystem>
#include <memory>
#include <vector>

#include "core/base/error.h"

namespace dimhem::io {

// Of a file's beginning: as much as tells what it is.
inline constexpr std::size_t enoughToTell = 4096;

class HeldFile {
public:
    // Errors: not there, not readable, no plain file (a pipe would wait for somebody to write into it).
    static base::Result<std::shared_ptr<const HeldFile>> open(const std::filesystem::path& path);
    ~HeldFile();
    HeldFile(const HeldFile&) = delete;
    HeldFile& operator=(const HeldFile&) = delete;

    bool is(const struct stat& other) const;  // the same file
    base::Result<std::vector<std::uint8_t>> read() const;
    // So many bytes from its beginning, or all there are: enough to tell what it is before it is read whole.
    base::Result<std::vector<std::uint8_t>> firstBytes(std::size_t count) const;

private:
    HeldFile(int fd, std::filesystem::path path) : fd_(fd), path_(std::move(path)) {}
    int fd_;
    std::filesystem::path path_;  // for sentences
};

}  // namespace dimhem::io
