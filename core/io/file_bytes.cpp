#include "core/io/file_bytes.h"

#include <nettle/sha2.h>
#include <sys/stat.h>

#include <array>
#include <cerrno>
#include <cstdio>
#include <memory>
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

Result<std::vector<std::uint8_t>> readFile(const std::filesystem::path& path) {
    std::error_code ignored;
    const auto status = std::filesystem::status(path, ignored);
    if (std::filesystem::is_directory(status)) return readFailure(path, EISDIR);
    // Opening a pipe would wait for somebody to write into it.
    if (std::filesystem::exists(status) && !std::filesystem::is_regular_file(status))
        return fail(ErrorCode::unreadable, path, quoted(path) + " leads to a device, not a file.");
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

}  // namespace dimhem::io
