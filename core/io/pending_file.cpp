#include "core/io/pending_file.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <random>

#include "core/io/sync_folder.h"

namespace dimhem::io {

using base::Result;
namespace fs = std::filesystem;

namespace {

constexpr std::string_view mark = ".dimhem-";  // then six letters, and nothing more
constexpr std::string_view lockEnding = ".lock";
constexpr std::string_view lockMark = "dim-hem: this file locks the one being written beside it\n";  // then its name
constexpr std::size_t randomLetters = 6;
constexpr std::size_t mostNameBytes = 200;  // of the target's own name; file systems take 255 in all

bool isTemporaryName(std::string_view name) {
    const std::size_t tail = mark.size() + randomLetters;
    return name.size() > tail + 1 && name.front() == '.' && name.compare(name.size() - tail, mark.size(), mark) == 0;
}

// What a lock file says must stand in it to the letter.
std::string lockText(std::string_view temporary) {
    return std::string(lockMark) + std::string(temporary) + "\n";
}

fs::path folderOf(const fs::path& file) {
    return file.parent_path().empty() ? fs::path(".") : file.parent_path();
}

std::string someLetters() {
    constexpr std::string_view letters = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789";
    std::random_device source;
    std::uniform_int_distribution<std::size_t> any(0, letters.size() - 1);
    std::string text(randomLetters, ' ');
    std::generate(text.begin(), text.end(), [&] { return letters[any(source)]; });
    return text;
}

}  // namespace

void removeStaleFiles(const fs::path& folder) {
    std::error_code ignored;
    for (fs::directory_iterator entry(folder, ignored), end; entry != end; entry.increment(ignored)) {
        const std::string name = entry->path().filename().string();
        if (!name.ends_with(lockEnding)) continue;
        const std::string temporary = name.substr(0, name.size() - lockEnding.size());
        if (!isTemporaryName(temporary)) continue;
        const int fd = ::open(entry->path().c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
        if (fd < 0) continue;
        const std::string wanted = lockText(temporary);
        std::string text(wanted.size() + 1, '\0');
        const ssize_t got = ::read(fd, text.data(), text.size());
        text.resize(got > 0 ? static_cast<std::size_t>(got) : 0);
        if (text == wanted && ::flock(fd, LOCK_EX | LOCK_NB) == 0) {
            ::unlink((folder / temporary).c_str());
            ::unlink(entry->path().c_str());
        }
        ::close(fd);
    }
}

Result<PendingFile> PendingFile::create(const fs::path& target, const WriteRules& rules) {
    const auto end = writableTarget(target, rules);
    if (!end) return tl::unexpected(end.error());
    PendingFile file;
    file.asked_ = target;
    file.target_ = *end;
    file.rules_ = rules;
    removeStaleFiles(folderOf(file.target_));
    // A name may be taken already: then another is tried.
    for (int tries = 0; tries < 100 && !file.lock_; ++tries) {
        if (auto made = file.makeTemporary(); !made) return tl::unexpected(made.error());
    }
    if (!file.lock_) return file.failure(EAGAIN);
    struct stat old {};
    if (::stat(file.target_.c_str(), &old) == 0) ::fchmod(::fileno(file.stream()), old.st_mode & 07777);
    return file;
}

// The lock first, and what it says once it is locked: until then it is nobody's, and never taken for stale.
Result<void> PendingFile::makeTemporary() {
    const std::string name =
        "." + target_.filename().string().substr(0, mostNameBytes) + std::string(mark) + someLetters();
    const fs::path path = folderOf(target_) / name, lockPath = path.string() + std::string(lockEnding);
    const int lock = ::open(lockPath.c_str(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, 0600);
    if (lock < 0) return errno == EEXIST ? Result<void>() : failure(errno);
    lock_.reset(::fdopen(lock, "r+b"));
    temporary_ = path;
    const std::string text = lockText(name);
    const bool locked = ::flock(lock, LOCK_EX | LOCK_NB) == 0 &&
                        ::write(lock, text.data(), text.size()) == static_cast<ssize_t>(text.size());
    const int fd = locked ? ::open(path.c_str(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, 0666)  // less the umask
                          : -1;
    if (fd < 0) {
        const int why = errno;
        ::unlink(lockPath.c_str());
        temporary_.clear();
        lock_.reset();
        return why == EEXIST ? Result<void>() : failure(why);
    }
    stream_.reset(::fdopen(fd, "w+b"));
    return {};
}

void PendingFile::removeTemporary() {
    ::unlink(temporary_.c_str());
    ::unlink((temporary_.string() + std::string(lockEnding)).c_str());
    temporary_.clear();
    lock_.reset();
}

PendingFile::~PendingFile() {
    if (temporary_.empty()) return;
    stream_.reset();
    removeTemporary();
}

Result<void> PendingFile::write(std::span<const std::uint8_t> bytes) {
    errno = 0;
    if (std::fwrite(bytes.data(), 1, bytes.size(), stream()) != bytes.size()) return failure(errno);
    return {};
}

Result<void> PendingFile::close() {
    if (!stream_) return {};
    errno = 0;
    if (std::ferror(stream()) || std::fflush(stream()) != 0 || (rules_.lasting && ::fsync(::fileno(stream())) != 0)) {
        const int reason = errno;
        stream_.reset();
        return failure(reason ? reason : EIO);
    }
    stream_.reset();
    return {};
}

Result<void> PendingFile::commit() {
    if (auto closed = close(); !closed) return closed;
    // While it was written, the name may have come to lead to the photo.
    if (const auto end = writableTarget(asked_, rules_); !end) return tl::unexpected(end.error());
    if (::rename(temporary_.c_str(), target_.c_str()) != 0) return failure(errno);
    removeTemporary();  // of which the lock alone is left
    if (rules_.lasting) syncFolder(folderOf(target_));
    return {};
}

}  // namespace dimhem::io
