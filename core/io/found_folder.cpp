#include "core/io/found_folder.h"

#include <zlib.h>

#include <algorithm>
#include <charconv>
#include <cstring>
#include <iomanip>
#include <sstream>

#include "core/io/file_bytes.h"
#include "core/io/format.h"
#include "core/io/pending_file.h"

namespace dimhem::io {

namespace fs = std::filesystem;

namespace {

constexpr std::string_view ending = ".found";
constexpr std::uint64_t mostOfOne = std::uint64_t{64} << 20;  // as it is in memory

struct Head {
    std::array<char, 16> mark{'d', 'i', 'm', '-', 'h', 'e', 'm', ' ', 'f', 'o', 'u', 'n', 'd', ' ', '1', '\n'};
    base::ContentKey sum;    // of the bytes
    std::uint64_t size = 0;  // of the bytes
};

struct Kept {
    fs::path path;
    fs::file_time_type used;
    std::uint64_t bytes;
};

// All there are, the least recently used first.
std::vector<Kept> keptIn(const fs::path& folder) {
    std::vector<Kept> all;
    std::error_code error;
    for (fs::recursive_directory_iterator at(folder, error), end; !error && at != end; at.increment(error)) {
        std::error_code gone;
        if (at->path().extension() != ending || !at->is_regular_file(gone)) continue;
        all.push_back({at->path(), at->last_write_time(gone), at->file_size(gone)});
    }
    std::ranges::sort(all, {}, &Kept::used);
    return all;
}

std::optional<std::vector<std::byte>> unpacked(std::span<const std::uint8_t> file) {
    Head head, expected;
    if (file.size() < sizeof head) return std::nullopt;
    std::memcpy(&head, file.data(), sizeof head);
    const auto packed = file.subspan(sizeof head);
    const bool canBe =
        head.size <= mostOfOne && static_cast<double>(head.size) <= mostInflated * static_cast<double>(packed.size());
    if (head.mark != expected.mark || !canBe) return std::nullopt;
    std::vector<std::byte> bytes(head.size);
    uLongf length = head.size;
    const int code = ::uncompress(reinterpret_cast<Bytef*>(bytes.data()), &length, packed.data(), packed.size());
    if (code != Z_OK || length != head.size || base::keyOfBytes(bytes.data(), bytes.size()) != head.sum)
        return std::nullopt;
    return bytes;
}

std::vector<std::uint8_t> packed(std::span<const std::byte> bytes) {
    Head head;
    head.sum = base::keyOfBytes(bytes.data(), bytes.size());
    head.size = bytes.size();
    uLongf length = ::compressBound(bytes.size());
    std::vector<std::uint8_t> file(sizeof head + length);
    std::memcpy(file.data(), &head, sizeof head);
    const int code = ::compress2(file.data() + sizeof head, &length, reinterpret_cast<const Bytef*>(bytes.data()),
                                 bytes.size(), Z_BEST_SPEED);
    file.resize(code == Z_OK ? sizeof head + length : 0);
    return file;
}

fs::path limitFile(const fs::path& folder) {
    return folder / "most-bytes";
}

std::optional<std::uint64_t> chosenLimit(const fs::path& folder) {
    const auto text = readFile(limitFile(folder));
    std::uint64_t bytes = 0;
    if (!text || text->size() > 20) return std::nullopt;
    const char* begin = reinterpret_cast<const char*>(text->data());
    const auto [end, error] = std::from_chars(begin, begin + text->size(), bytes);
    return error == std::errc() && end == begin + text->size() ? std::optional(bytes) : std::nullopt;
}

// What is kept can be found again: it need not outlast a power cut.
void writeInto(const fs::path& path, std::span<const std::uint8_t> bytes) {
    std::error_code ignored;
    fs::create_directories(path.parent_path(), ignored);
    auto pending = PendingFile::create(path, {.lasting = false});
    if (pending && pending->write(bytes)) (void)pending->commit();
}

}  // namespace

FoundFolder::FoundFolder(fs::path folder, std::string_view code, std::uint64_t standardBytes)
    : folder_(std::move(folder)),
      code_(base::keyOfBytes(code.data(), code.size())),
      mostBytes_(chosenLimit(folder_).value_or(standardBytes)) {}

// Spread over folders, since a file is written beside the others of its own (pending_file.h looks through them).
fs::path FoundFolder::fileOf(const base::ContentKey& key) const {
    const base::ContentKey name = base::KeyBuilder().add(code_).add(key).key();
    std::ostringstream text;
    text << std::hex << std::setfill('0') << std::setw(16) << name.high << std::setw(16) << name.low;
    return folder_ / text.str().substr(0, 2) / (text.str().substr(2) + std::string(ending));
}

std::optional<std::vector<std::byte>> FoundFolder::read(const base::ContentKey& key) {
    const fs::path path = fileOf(key);
    std::error_code error;
    const std::uint64_t size = fs::file_size(path, error);
    if (error || size > mostOfOne) return std::nullopt;
    const auto file = readFile(path);
    if (!file) return std::nullopt;
    auto bytes = unpacked(*file);
    if (bytes) {
        fs::last_write_time(path, fs::file_time_type::clock::now(), error);
    } else {
        fs::remove(path, error);
    }
    return bytes;
}

bool FoundFolder::wants(std::chrono::nanoseconds took) const {
    return mostBytes_ > 0 && took >= std::chrono::milliseconds(10);
}

void FoundFolder::write(const base::ContentKey& key, std::span<const std::byte> bytes) {
    if (bytes.size() > mostOfOne) return;
    const std::vector<std::uint8_t> file = packed(bytes);
    if (file.empty() || file.size() > mostBytes_) return;
    keepToLimit(file.size());
    writeInto(fileOf(key), file);
    std::error_code ignored;
    fs::permissions(folder_, fs::perms::owner_all, ignored);  // masks tell something of the person's photos
}

void FoundFolder::keepToLimit(std::uint64_t more) {
    const std::lock_guard lock(mutex_);
    if (known_ < 0) known_ = static_cast<std::int64_t>(bytes());
    known_ += static_cast<std::int64_t>(more);
    if (static_cast<std::uint64_t>(known_) <= mostBytes_) return;
    // Well below it, so that it is not looked through again at once; other programs may have written as well.
    const auto all = keptIn(folder_);
    std::uint64_t there = more;
    for (const Kept& kept : all) there += kept.bytes;
    std::error_code error;
    for (const Kept& kept : all) {
        if (there <= mostBytes_ / 4 * 3) break;
        if (fs::remove(kept.path, error)) there -= kept.bytes;
    }
    known_ = static_cast<std::int64_t>(there);
}

void FoundFolder::setMostBytes(std::uint64_t bytes) {
    mostBytes_ = bytes;
    const std::string text = std::to_string(bytes);
    writeInto(limitFile(folder_), {reinterpret_cast<const std::uint8_t*>(text.data()), text.size()});
    if (bytes == 0) clear();
}

void FoundFolder::clear() {
    const std::lock_guard lock(mutex_);
    std::error_code error;
    for (const Kept& kept : keptIn(folder_)) fs::remove(kept.path, error);
    known_ = 0;
}

std::uint64_t FoundFolder::bytes() const {
    std::uint64_t there = 0;
    for (const Kept& kept : keptIn(folder_)) there += kept.bytes;
    return there;
}

}  // namespace dimhem::io
