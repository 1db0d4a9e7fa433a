#include "core/task/journal.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <charconv>
#include <fstream>

#include "core/base/content_key.h"
#include "core/document/json_correction.h"
#include "core/document/json_format.h"
#include "core/io/sync_folder.h"
#include "core/io/write_guard.h"
#include "core/json/fields.h"

namespace dimhem::task {

using base::Result;
using nlohmann::json;
namespace fs = std::filesystem;

namespace {

constexpr std::string_view formatName = "dim-hem-journal";
constexpr int journalVersion = 1;
constexpr char ending[] = ".journal", begun[] = ".begun";
constexpr std::size_t sumDigits = 16;

std::string sumOf(std::string_view text) {
    std::uint64_t sum = base::keyOfBytes(text.data(), text.size()).low;
    std::string hex(sumDigits, '0');
    for (std::size_t i = sumDigits; i-- > 0; sum >>= 4) hex[i] = "0123456789abcdef"[sum & 15];
    return hex;
}

// The record of a line; nothing where the line is not whole or not as it was written.
std::optional<json> recordOf(const std::string& line) {
    if (line.size() < sumDigits + 2 || line[sumDigits] != ' ') return std::nullopt;
    const std::string_view text = std::string_view(line).substr(sumDigits + 1);
    if (line.compare(0, sumDigits, sumOf(text)) != 0) return std::nullopt;
    json record = json::parse(text, nullptr, false);
    return record.is_object() ? std::optional(std::move(record)) : std::nullopt;
}

bool isHeld(const fs::path& path) {
    const int fd = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
    if (fd < 0) return false;
    const bool held = ::flock(fd, LOCK_SH | LOCK_NB) != 0;
    ::close(fd);
    return held;
}

template <class Each>
void forEachJournal(const fs::path& folder, Each each) {
    std::error_code failed;
    for (fs::directory_iterator entry(folder, failed), end; !failed && entry != end; entry.increment(failed)) {
        if (entry->path().extension() == ending) each(entry->path());
    }
}

std::optional<JournalOrigin> originOf(const json& head) {
    const auto text = [&](const char* name) {
        const auto found = head.find(name);
        return found != head.end() && found->is_string() ? std::optional(found->get<std::string>()) : std::nullopt;
    };
    const auto document = fields::readPath(head, "document-path"), photo = fields::readPath(head, "photo-path");
    const auto version = head.find("version");
    const bool known = text("format") == formatName && version != head.end() && *version == journalVersion;
    if (!known || !document || !photo) return std::nullopt;
    return JournalOrigin{*document, *photo};
}

std::optional<JournalOrigin> originIn(const fs::path& journal) {
    std::ifstream file(journal, std::ios::binary);
    std::string line;
    std::getline(file, line);
    const auto head = recordOf(line);
    return head ? originOf(*head) : std::nullopt;
}

void removeLeftBehind(const fs::path& folder, const JournalOrigin& origin, const fs::path& butNot) {
    std::vector<fs::path> stale;
    forEachJournal(folder, [&](const fs::path& path) {
        if (path != butNot && !isHeld(path) && originIn(path) == origin) stale.push_back(path);
    });
    std::error_code ignored;
    for (const fs::path& path : stale) fs::remove(path, ignored);
    // One that was being begun when its program was killed; what is younger may be another program's that goes on.
    constexpr std::chrono::hours aDay(24);
    for (fs::directory_iterator entry(folder, ignored), end; !ignored && entry != end; entry.increment(ignored)) {
        const bool isBegun = entry->path().extension() == begun && !isHeld(entry->path());
        if (isBegun && fs::file_time_type::clock::now() - entry->last_write_time(ignored) > aDay)
            fs::remove(entry->path(), ignored);
    }
}

std::optional<Unsaved> readJournal(const fs::path& path) {
    std::ifstream file(path, std::ios::binary);
    Unsaved unsaved;
    json state;
    std::string line;
    while (std::getline(file, line) && !file.eof()) {  // a line without its end was being written
        auto record = recordOf(line);
        if (!record) break;
        try {
            if (unsaved.journal.empty()) {
                const auto origin = originOf(*record);
                if (!origin) return std::nullopt;
                unsaved.origin = *origin;
                unsaved.journal = path;
                state = record->at("document");
                unsaved.steps = record->value("steps-before", std::size_t{0});
            } else {
                state.patch_inplace(record->at("patch"));
            }
            unsaved.step = record->at("step");
        } catch (const json::exception&) {
            break;
        }
        ++unsaved.steps;
    }
    if (unsaved.journal.empty()) return std::nullopt;
    auto document = document::fromJson(state);
    if (!document) return std::nullopt;
    unsaved.document = std::move(*document);
    std::error_code ignored;
    unsaved.when = fs::last_write_time(path, ignored);
    return unsaved;
}

}  // namespace

namespace {

struct LockedFile {
    int fd;
    fs::path path;
};

// A file of a name of its own that nobody looks at before it is locked and has the name of a journal: another window
// that looks for what was left behind takes hold of each journal for a moment, and would keep this one from locking it.
Result<LockedFile> begunFile(const fs::path& folder) {
    std::string name = (folder / ("XXXXXX" + std::string(begun))).string();
    const int fd = ::mkostemps(name.data(), sizeof begun - 1, O_CLOEXEC | O_APPEND);
    if (fd < 0) return io::writeFailure(folder / "journal", errno);
    if (::flock(fd, LOCK_EX) == 0) return LockedFile{fd, name};
    const int why = errno;
    ::unlink(name.c_str());
    ::close(fd);
    return io::writeFailure(folder / "journal", why);
}

// The same with the name of a journal.
Result<LockedFile> lockedFile(const fs::path& folder) {
    auto file = begunFile(folder);
    if (!file) return file;
    fs::path path = file->path;
    path.replace_extension(ending);
    const bool linked = ::link(file->path.c_str(), path.c_str()) == 0;
    const int why = errno;
    ::unlink(file->path.c_str());
    if (linked) return LockedFile{file->fd, path};
    ::close(file->fd);
    return io::writeFailure(folder / "journal", why);
}

}  // namespace

std::string journalLine(const std::string& record) {
    return sumOf(record) + " " + record + "\n";
}

Result<Journal> Journal::create(const fs::path& folder, const JournalOrigin& origin, const document::Document& first,
                                const std::string& step) {
    std::error_code failed;
    fs::create_directories(folder, failed);
    if (failed) return io::writeFailure(folder / "journal", failed.value());
    auto begun = lockedFile(folder);
    if (!begun) return tl::unexpected(begun.error());
    Journal journal;
    journal.path_ = std::move(begun->path);
    journal.file_.reset(::fdopen(begun->fd, "ab"));
    journal.origin_ = origin;
    journal.last_ = journal.jsonOf(first);
    if (auto written = journal.begin(step); !written) {
        journal.remove();
        return tl::unexpected(written.error());
    }
    removeLeftBehind(folder, origin, journal.path_);
    return journal;
}

// The first record: all of the document.
Result<void> Journal::begin(const std::string& step) {
    json head{{"format", formatName}, {"version", journalVersion}, {"step", step}, {"document", last_}};
    if (steps_ > 0) head["steps-before"] = steps_;
    fields::writePath(head, "document-path", origin_.document.string());
    fields::writePath(head, "photo-path", origin_.photo.string());
    bytes_ = 0;
    auto written = write(head);
    headBytes_ = bytes_;
    return written;
}

bool Journal::isOvergrown() const {
    constexpr std::size_t muchMore = 8, always = std::size_t{1} << 20;
    return bytes_ > muchMore * headBytes_ + always;
}

// Beside the old one, and in its place once it is on the disk.
Result<void> Journal::compact(const std::string& step) {
    auto file = begunFile(path_.parent_path());
    if (!file) return tl::unexpected(file.error());
    std::unique_ptr<std::FILE, CloseFile> old = std::exchange(file_, {::fdopen(file->fd, "ab"), {}});
    const std::size_t oldHead = headBytes_, oldBytes = bytes_, oldSteps = steps_;
    auto written = begin(step);
    if (written && ::rename(file->path.c_str(), path_.c_str()) != 0) written = io::writeFailure(path_, errno);
    if (written) {
        io::syncFolder(path_.parent_path());
        return written;
    }
    ::unlink(file->path.c_str());
    file_ = std::move(old);
    headBytes_ = oldHead;
    bytes_ = oldBytes;
    steps_ = oldSteps;
    return written;
}

// Only what has changed is made into JSON: the rest is what it was.
json Journal::jsonOf(const document::Document& document) {
    std::map<document::CorrectionPtr, json> now;
    const auto listOf = [&](const std::vector<document::CorrectionPtr>& corrections) {
        json list = json::array();
        for (const document::CorrectionPtr& correction : corrections) {
            const auto [at, isNew] = now.try_emplace(correction);
            if (isNew) {
                const auto found = known_.find(correction);
                at->second = found == known_.end() ? document::correctionToJson(*correction) : std::move(found->second);
            }
            list.push_back(at->second);
        }
        return list;
    };
    document::Document bare = document;
    bare.corrections.clear();
    bare.states.clear();
    json out = document::toJson(bare);
    out["corrections"] = listOf(document.corrections);
    for (const document::KeptState& state : document.states)
        out["states"].push_back(document::stateToJson(state, listOf(state.corrections)));
    known_ = std::move(now);
    return out;
}

Result<void> Journal::append(const document::Document& next, const std::string& step) {
    json state = jsonOf(next);
    const json record{{"step", step}, {"patch", json::diff(last_, state)}};
    last_ = std::move(state);
    // Where there is no room for a second one beside it, the old one goes on.
    if (isOvergrown() && compact(step)) return {};
    return write(record);
}

Result<void> Journal::write(const json& record) {
    const std::string text = record.dump(-1, ' ', false, json::error_handler_t::replace);
    const std::string line = journalLine(text);
    errno = 0;
    const bool written = std::fwrite(line.data(), 1, line.size(), file_.get()) == line.size() &&
                         std::fflush(file_.get()) == 0 && ::fdatasync(::fileno(file_.get())) == 0;
    if (!written) return io::writeFailure(path_, errno ? errno : EIO);
    bytes_ += line.size();
    ++steps_;
    return {};
}

void Journal::remove() {
    ::unlink(path_.c_str());
    file_.reset();
}

std::vector<Unsaved> unsavedIn(const fs::path& folder) {
    std::vector<Unsaved> found;
    forEachJournal(folder, [&](const fs::path& path) {
        if (isHeld(path)) return;
        if (auto unsaved = readJournal(path)) found.push_back(std::move(*unsaved));
    });
    std::sort(found.begin(), found.end(), [](const Unsaved& a, const Unsaved& b) { return a.when > b.when; });
    return found;
}

Result<Opened> recover(const Unsaved& unsaved, const base::Workers& workers, const io::Reading& reading) {
    return openVersion(unsaved.document, unsaved.origin.document, workers, reading);
}

}  // namespace dimhem::task
