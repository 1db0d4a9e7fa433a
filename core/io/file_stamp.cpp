#include "core/io/file_stamp.h"

#include <sys/stat.h>

namespace dimhem::io {

std::optional<FileStamp> stampOf(const std::filesystem::path& path) {
    struct stat info {};
    if (::stat(path.c_str(), &info) != 0) return std::nullopt;
    constexpr std::int64_t nsPerSecond = 1'000'000'000;
    return FileStamp{info.st_dev, info.st_ino, static_cast<std::uint64_t>(info.st_size),
                     info.st_mtim.tv_sec * nsPerSecond + info.st_mtim.tv_nsec};
}

}  // namespace dimhem::io
