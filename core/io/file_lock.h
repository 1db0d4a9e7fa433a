// Who works on a file: a lock in a file of its own, with a word on its owner.
//
// Held as long as the object lives and no longer than the process does (flock), so that a lock whose owner is gone is
// nobody's.
#pragma once

#include <filesystem>
#include <memory>
#include <optional>
#include <string>

namespace dimhem::io {

struct LockOwner {
    long process = 0;
    std::string since;  // local time, "2026-05-01 10:42"
};

class FileLock {
public:
    // The lock file, made where it is missing, with its folder. Nothing where another holds it, or it cannot be made.
    static std::optional<FileLock> take(const std::filesystem::path& lockFile);
    FileLock(FileLock&&) = default;
    FileLock& operator=(FileLock&&) = default;
    ~FileLock();

private:
    FileLock() = default;
    struct CloseFile {
        void operator()(std::FILE* file) const;
    };
    std::filesystem::path path_;
    std::unique_ptr<std::FILE, CloseFile> file_;
};

// Who holds it now; nothing where nobody does.
std::optional<LockOwner> ownerOf(const std::filesystem::path& lockFile);

}  // namespace dimhem::io
