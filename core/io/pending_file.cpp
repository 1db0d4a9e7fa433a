#include "core/io/pending_file.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <random>

namespace dimhem::io {

using base::Result;
namespace fs = std::filesystem;

namespace {

constexpr std::string_view mark = ".dimhem-";  // then six letters, and nothing more
constexpr std::size_t randomLetters = 6;
constexpr std::size_t mostNameBytes = 200;  // of the target's own name; file systems take 255 in all

bool isTemporaryName(const std::string& name) {
    const std::size_t tail = mark.size() + randomLetters;
    return name.size() > tail + 1 && name.front() == '.' && name.compare(name.size() - tail, mark.size(), mark) == 0;
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

void syncFolder(const fs::path& folder) {
    const int fd = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd < 0) return;  // a folder that cannot be opened cannot be synced either; the file itself is on the disk
    ::fsync(fd);
    ::close(fd);
}

}  // namespace

void removeStaleFiles(const fs::path& folder) {
    std::error_code ignored;
    for (fs::directory_iterator entry(folder, ignored), end; entry != end; entry.increment(ignored)) {
        if (!isTemporaryName(entry->path().filename().string())) continue;
        const int fd = ::open(entry->path().c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW);
        if (fd < 0) continue;
        if (::flock(fd, LOCK_EX | LOCK_NB) == 0) ::unlink(entry->path().c_str());
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
    // Between its making and its locking another program may take the file for stale: then another is made.
    for (int tries = 0; tries < 100 && !file.lock_; ++tries) {
        if (auto made = file.makeTemporary(); !made) return tl::unexpected(made.error());
    }
    if (!file.lock_) return file.failure(EAGAIN);
    struct stat old {};
    if (::stat(file.target_.c_str(), &old) == 0) ::fchmod(::fileno(file.stream()), old.st_mode & 07777);
    return file;
}

Result<void> PendingFile::makeTemporary() {
    const std::string name = target_.filename().string().substr(0, mostNameBytes);
    const std::string path = (folderOf(target_) / ("." + name + std::string(mark) + someLetters())).string();
    const int fd = ::open(path.c_str(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, 0666);  // less what the umask takes
    if (fd < 0) return errno == EEXIST ? Result<void>() : failure(errno);
    temporary_ = path;
    stream_.reset(::fdopen(fd, "w+b"));
    struct stat made {};
    if (::flock(fd, LOCK_EX | LOCK_NB) == 0 && ::fstat(fd, &made) == 0 && made.st_nlink > 0)
        lock_.reset(::fdopen(::fcntl(fd, F_DUPFD_CLOEXEC, 0), "rb"));
    return {};
}

PendingFile::~PendingFile() {
    if (temporary_.empty()) return;
    stream_.reset();
    ::unlink(temporary_.c_str());
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
    // While it was written, the name may have come to lead to the photo.
    if (const auto end = writableTarget(asked_, rules_); !end) return tl::unexpected(end.error());
    if (::rename(temporary_.c_str(), target_.c_str()) != 0) return failure(errno);
    temporary_.clear();
    lock_.reset();
    syncFolder(folderOf(target_));
    return {};
}

}  // namespace dimhem::io
