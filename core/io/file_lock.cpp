#include "core/io/file_lock.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <cstdio>
#include <ctime>
#include <fstream>
#include <iomanip>
#include <sstream>
#include <thread>

namespace dimhem::io {

namespace fs = std::filesystem;

namespace {

std::string now() {
    const std::time_t time = std::time(nullptr);
    std::tm local{};
    ::localtime_r(&time, &local);
    std::ostringstream text;
    text << std::put_time(&local, "%Y-%m-%d %H:%M");
    return text.str();
}

}  // namespace

void FileLock::CloseFile::operator()(std::FILE* file) const {
    std::fclose(file);
}

std::optional<FileLock> FileLock::take(const fs::path& lockFile) {
    std::error_code ignored;
    fs::create_directories(lockFile.parent_path(), ignored);
    for (int tries = 0; tries < 100; ++tries) {
        const int fd = ::open(lockFile.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
        if (fd < 0) return std::nullopt;
        FileLock lock;
        lock.file_.reset(::fdopen(fd, "r+"));
        if (::flock(fd, LOCK_EX | LOCK_NB) != 0) {
            // Who only looks whether it is held (ownerOf) holds it for a moment, too.
            constexpr int looksAtOnce = 10;
            if (errno != EWOULDBLOCK || tries >= looksAtOnce) return std::nullopt;
            std::this_thread::sleep_for(std::chrono::milliseconds(2));
            continue;
        }
        // The one before may have removed the file between the two calls.
        struct stat held {
        }, there{};
        if (::fstat(fd, &held) != 0 || ::stat(lockFile.c_str(), &there) != 0 || held.st_ino != there.st_ino) continue;
        if (::ftruncate(fd, 0) == 0)
            std::fprintf(lock.file_.get(), "%ld\n%s\n", static_cast<long>(::getpid()), now().c_str());
        std::fflush(lock.file_.get());
        lock.path_ = lockFile;
        return lock;
    }
    return std::nullopt;
}

FileLock::~FileLock() {
    if (!path_.empty() && file_) ::unlink(path_.c_str());
}

std::optional<LockOwner> ownerOf(const fs::path& lockFile) {
    const int fd = ::open(lockFile.c_str(), O_RDONLY | O_CLOEXEC);
    if (fd < 0) return std::nullopt;
    const bool held = ::flock(fd, LOCK_SH | LOCK_NB) != 0;
    ::close(fd);
    if (!held) return std::nullopt;
    LockOwner owner;
    std::ifstream text(lockFile);
    text >> owner.process;
    std::getline(text >> std::ws, owner.since);
    return owner;
}

}  // namespace dimhem::io
