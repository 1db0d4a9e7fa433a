#include "core/io/held_file.h"

#include <fcntl.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <system_error>

#include "core/io/write_guard.h"

namespace dimhem::io {

using base::ErrorCode;
using base::fail;
using base::Result;

namespace {

constexpr std::uintmax_t maxFileBytes = std::uintmax_t{8} << 30;

tl::unexpected<base::Error> readFailure(const std::filesystem::path& path, int errorNumber) {
    switch (errorNumber) {
        case ENOENT:
        case ENOTDIR: return fail(ErrorCode::notFound, path, "There is no file " + quoted(path) + " in that folder.");
        case EACCES:
        case EPERM: return fail(ErrorCode::unreadable, path, "You are not allowed to read " + quoted(path) + ".");
        case EISDIR: return fail(ErrorCode::unreadable, path, quoted(path) + " is a folder, not a file.");
        default:
            return fail(ErrorCode::unreadable, path,
                        quoted(path) + " could not be read: " + std::generic_category().message(errorNumber) + ".");
    }
}

}  // namespace

Result<std::shared_ptr<const HeldFile>> HeldFile::open(const std::filesystem::path& path) {
    // Without waiting: what turns out to be a pipe is refused below.
    const int fd = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    if (fd < 0) {
        struct stat device {};
        const int why = errno;
        if (::stat(path.c_str(), &device) == 0 && !S_ISREG(device.st_mode) && !S_ISDIR(device.st_mode))
            return fail(ErrorCode::unreadable, path, quoted(path) + " leads to a device, not a file.");
        return readFailure(path, why);
    }
    const std::shared_ptr<const HeldFile> held(new HeldFile(fd, path));
    struct stat info {};
    if (::fstat(fd, &info) != 0) return readFailure(path, errno);
    if (S_ISDIR(info.st_mode)) return readFailure(path, EISDIR);
    if (!S_ISREG(info.st_mode))
        return fail(ErrorCode::unreadable, path, quoted(path) + " leads to a device, not a file.");
    return held;
}

HeldFile::~HeldFile() {
    ::close(fd_);
}

bool HeldFile::is(const struct stat& other) const {
    struct stat own {};
    return ::fstat(fd_, &own) == 0 && own.st_dev == other.st_dev && own.st_ino == other.st_ino;
}

Result<std::vector<std::uint8_t>> HeldFile::read() const {
    struct stat info {};
    if (::fstat(fd_, &info) != 0) return readFailure(path_, errno);
    if (static_cast<std::uintmax_t>(info.st_size) > maxFileBytes)
        return fail(ErrorCode::tooLarge, path_, quoted(path_) + " is larger than the 8 GB the program reads.");
    if (info.st_size == 0) return fail(ErrorCode::damaged, path_, quoted(path_) + " is empty: it has no bytes at all.");
    return firstBytes(static_cast<std::size_t>(info.st_size));
}

Result<std::vector<std::uint8_t>> HeldFile::firstBytes(std::size_t count) const {
    struct stat info {};
    if (::fstat(fd_, &info) != 0) return readFailure(path_, errno);
    std::vector<std::uint8_t> bytes(std::min(count, static_cast<std::size_t>(info.st_size)));
    std::size_t got = 0;
    while (got < bytes.size()) {
        const ssize_t more = ::pread(fd_, bytes.data() + got, bytes.size() - got, static_cast<off_t>(got));
        if (more < 0 && errno == EINTR) continue;
        if (more < 0) return readFailure(path_, errno);
        if (more == 0) break;  // it has become shorter
        got += static_cast<std::size_t>(more);
    }
    bytes.resize(got);
    return bytes;
}

}  // namespace dimhem::io
