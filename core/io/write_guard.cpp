#include "core/io/write_guard.h"

#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <system_error>

namespace dimhem::io {

using base::ErrorCode;
using base::fail;
using base::Result;
namespace fs = std::filesystem;

namespace {

constexpr int mostLinks = 40;  // as many as Linux follows (path_resolution(7))

// The place a chain of links ends at; its last name need not exist.
Result<fs::path> endOfLinks(fs::path path) {
    for (int i = 0; i < mostLinks; ++i) {
        std::error_code error;
        if (!fs::is_symlink(fs::symlink_status(path, error))) return path;
        const fs::path next = fs::read_symlink(path, error);
        if (error) return writeFailure(path, error.value());
        path = next.is_absolute() ? next : path.parent_path() / next;
    }
    return writeFailure(path, ELOOP);
}

bool sameFile(const struct stat& a, const struct stat& b) {
    return a.st_dev == b.st_dev && a.st_ino == b.st_ino;
}

}  // namespace

std::string quoted(const fs::path& path) {
    return "\"" + path.filename().string() + "\"";
}

tl::unexpected<base::Error> writeFailure(const fs::path& path, int errorNumber) {
    const std::string name = quoted(path);
    switch (errorNumber) {
        case ENOSPC:
        case EDQUOT:
        case EFBIG:
            return fail(ErrorCode::diskFull, path,
                        "There is not enough room on the disk for " + name + "; nothing was changed.");
        case EACCES:
        case EPERM:
        case EROFS:
            return fail(ErrorCode::unwritable, path,
                        "You are not allowed to write " + name + " in that folder; nothing was changed.");
        case ENOENT:
        case ENOTDIR: return fail(ErrorCode::unwritable, path, "The folder for " + name + " does not exist.");
        case EISDIR: return fail(ErrorCode::unwritable, path, name + " is a folder, not a file.");
        default:
            return fail(ErrorCode::unwritable, path,
                        name + " could not be written: " + std::generic_category().message(errorNumber) +
                            "; nothing was changed.");
    }
}

Result<fs::path> writableTarget(const fs::path& path, const WriteRules& rules) {
    auto end = endOfLinks(path);
    if (!end) return end;
    struct stat target {};
    if (::stat(end->c_str(), &target) != 0) {
        if (errno == ENOENT) return end;  // a new file
        return writeFailure(*end, errno);
    }
    if (S_ISDIR(target.st_mode)) return writeFailure(*end, EISDIR);
    if (!S_ISREG(target.st_mode)) {
        return fail(ErrorCode::unwritable, path,
                    quoted(path) + " leads to a device, not a file: choose another name. Nothing was changed.");
    }
    for (const KeptFile& kept : rules.keep) {
        struct stat known {};
        const bool isThere = !kept.path.empty() && ::stat(kept.path.c_str(), &known) == 0 && sameFile(target, known);
        if (!isThere && !(kept.held && kept.held->is(target))) continue;
        return fail(ErrorCode::unwritable, path,
                    quoted(path) + " is " + kept.what + ": choose another name. Nothing was changed.");
    }
    const bool writeProtected = (target.st_mode & 0222) == 0 || ::access(end->c_str(), W_OK) != 0;
    if (writeProtected && !rules.replaceReadOnly)
        return fail(ErrorCode::readOnly, path, quoted(path) + " is write-protected; nothing was changed.");
    return end;
}

}  // namespace dimhem::io
