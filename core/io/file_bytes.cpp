#include "core/io/file_bytes.h"

#include <fcntl.h>
#include <nettle/sha2.h>
#include <sys/stat.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <system_error>

namespace dimhem::io {

using base::ErrorCode;
using base::fail;
using base::Result;

namespace {

constexpr std::uintmax_t maxFileBytes = std::uintmax_t{8} << 30;

std::string quoted(const std::filesystem::path& path) {
    return "\"" + path.filename().string() + "\"";
}

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

int syncFolder(const std::filesystem::path& folder) {
    const int fd = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd < 0) return 0;  // a folder that cannot be opened cannot be synced either; the file itself is on the disk
    ::fsync(fd);
    return ::close(fd);
}

}  // namespace

Result<std::vector<std::uint8_t>> readFile(const std::filesystem::path& path) {
    std::error_code ignored;
    if (std::filesystem::is_directory(path, ignored)) return readFailure(path, EISDIR);
    const std::unique_ptr<std::FILE, int (*)(std::FILE*)> file(std::fopen(path.c_str(), "rb"), std::fclose);
    if (!file) return readFailure(path, errno);
    struct stat info {};
    if (::fstat(::fileno(file.get()), &info) != 0) return readFailure(path, errno);
    if (static_cast<std::uintmax_t>(info.st_size) > maxFileBytes) {
        return fail(ErrorCode::tooLarge, path, quoted(path) + " is larger than the 8 GB the program reads.");
    }
    if (info.st_size == 0) return fail(ErrorCode::damaged, path, quoted(path) + " is empty: it has no bytes at all.");
    std::vector<std::uint8_t> bytes(static_cast<std::size_t>(info.st_size));
    const std::size_t got = std::fread(bytes.data(), 1, bytes.size(), file.get());
    if (std::ferror(file.get())) return readFailure(path, errno);
    bytes.resize(got);
    return bytes;
}

std::string sha256(std::span<const std::uint8_t> bytes) {
    sha256_ctx context;
    sha256_init(&context);
    sha256_update(&context, bytes.size(), bytes.data());
    std::array<std::uint8_t, SHA256_DIGEST_SIZE> digest{};
    sha256_digest(&context, digest.size(), digest.data());
    std::string text;
    for (const std::uint8_t byte : digest) {
        constexpr char digits[] = "0123456789abcdef";
        text += digits[byte >> 4];
        text += digits[byte & 15];
    }
    return text;
}

Result<PendingFile> PendingFile::create(const std::filesystem::path& target) {
    PendingFile file;
    std::error_code ignored;
    // A link is followed, so that what it points to is replaced and not the link.
    const auto real = std::filesystem::weakly_canonical(target, ignored);
    file.target_ = real.empty() ? target : real;
    if (std::filesystem::is_directory(file.target_, ignored)) return file.failure(EISDIR);
    std::string name = (file.target_.parent_path() / ("." + file.target_.filename().string() + ".XXXXXX")).string();
    const int fd = ::mkstemp(name.data());
    if (fd < 0) return file.failure(errno);
    file.temporary_ = name;
    struct stat old {};
    const mode_t mask = ::umask(0);
    ::umask(mask);
    ::fchmod(fd, ::stat(file.target_.c_str(), &old) == 0 ? old.st_mode & 07777 : 0666 & ~mask);
    file.stream_.reset(::fdopen(fd, "w+b"));
    return file;
}

PendingFile::~PendingFile() {
    if (temporary_.empty()) return;
    stream_.reset();
    ::unlink(temporary_.c_str());
}

tl::unexpected<base::Error> PendingFile::failure(int errorNumber) const {
    const std::string name = quoted(target_);
    switch (errorNumber) {
        case ENOSPC:
        case EDQUOT:
        case EFBIG:
            return fail(ErrorCode::diskFull, target_,
                        "There is not enough room on the disk for " + name + "; nothing was changed.");
        case EACCES:
        case EPERM:
        case EROFS:
            return fail(ErrorCode::unwritable, target_,
                        "You are not allowed to write " + name + " in that folder; nothing was changed.");
        case ENOENT:
        case ENOTDIR: return fail(ErrorCode::unwritable, target_, "The folder for " + name + " does not exist.");
        case EISDIR: return fail(ErrorCode::unwritable, target_, name + " is a folder, not a file.");
        default:
            return fail(ErrorCode::unwritable, target_,
                        name + " could not be written: " + std::generic_category().message(errorNumber) +
                            "; nothing was changed.");
    }
}

Result<void> PendingFile::write(std::span<const std::uint8_t> bytes) {
    errno = 0;
    if (std::fwrite(bytes.data(), 1, bytes.size(), stream()) != bytes.size()) return failure(errno);
    return {};
}

Result<void> PendingFile::close() {
    if (!stream_) return {};
    errno = 0;
    if (std::ferror(stream()) || std::fflush(stream()) != 0 || ::fsync(::fileno(stream())) != 0) {
        const int reason = errno;
        stream_.reset();
        return failure(reason ? reason : EIO);
    }
    stream_.reset();
    return {};
}

Result<void> PendingFile::commit() {
    if (auto closed = close(); !closed) return closed;
    if (::rename(temporary_.c_str(), target_.c_str()) != 0) return failure(errno);
    temporary_.clear();
    syncFolder(target_.parent_path().empty() ? "." : target_.parent_path());
    return {};
}

}  // namespace dimhem::io
