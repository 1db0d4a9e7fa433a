#include "core/io/document_file.h"

#include <zip.h>

#include <algorithm>
#include <memory>
#include <set>

#include "core/base/long_work.h"
#include "core/document/json_format.h"
#include "core/io/held_file.h"
#include "core/io/pending_file.h"
#include "core/mask/matte.h"

namespace dimhem::io {

namespace {

using base::ErrorCode;
using base::Result;

constexpr char jsonEntry[] = "document.json";
constexpr char thumbnailEntry[] = "thumbnail.png";
constexpr char photoEntry[] = "photo";
constexpr std::uint64_t maxJsonBytes = std::uint64_t{256} << 20;
constexpr std::uint64_t maxThumbnailBytes = std::uint64_t{4} << 20;
constexpr std::uint64_t maxMatteBytes = std::uint64_t{1} << 30;
constexpr std::uint64_t maxPhotoBytes = std::uint64_t{8} << 30;

struct Discard {
    void operator()(zip_t* zip) const { zip_discard(zip); }
};
using Archive = std::unique_ptr<zip_t, Discard>;

tl::unexpected<base::Error> damagedDocument(const std::filesystem::path& path, const std::string& how) {
    return base::fail(ErrorCode::damaged, path,
                      "The document \"" + path.filename().string() + "\" is damaged: " + how + ".");
}

Archive openArchive(Bytes bytes) {
    zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, nullptr);
    if (!source) return nullptr;
    Archive archive(zip_open_from_source(source, ZIP_RDONLY, nullptr));
    if (!archive) zip_source_free(source);
    return archive;
}

// Text and pictures shrink to a tenth or so; what states to shrink more than this is no document of anybody's.
constexpr std::uint64_t mostShrinking = 100;
constexpr std::uint64_t alwaysAllowed = 1 << 20;

// One entry, whole. Its stated size is held against the bytes it takes in the file before memory is taken, no more than
// that is ever unpacked, and its checksum must be right.
std::optional<std::vector<std::uint8_t>> readEntry(zip_t* archive, const char* name, std::uint64_t maxBytes,
                                                   std::uint64_t fileBytes) {
    zip_stat_t stat;
    zip_stat_init(&stat);
    constexpr zip_uint64_t sizes = ZIP_STAT_SIZE | ZIP_STAT_COMP_SIZE;
    if (zip_stat(archive, name, 0, &stat) != 0 || (stat.valid & sizes) != sizes || stat.size > maxBytes)
        return std::nullopt;
    if (stat.size > std::min<std::uint64_t>(stat.comp_size, fileBytes) * mostShrinking + alwaysAllowed)
        return std::nullopt;
    const std::unique_ptr<zip_file_t, int (*)(zip_file_t*)> file(zip_fopen(archive, name, 0), zip_fclose);
    if (!file) return std::nullopt;
    std::vector<std::uint8_t> bytes(stat.size);
    if (zip_fread(file.get(), bytes.data(), bytes.size()) != static_cast<zip_int64_t>(bytes.size()))
        return std::nullopt;
    // The library compares the checksum when the end is reached, by reading on.
    std::uint8_t beyond = 0;
    if (zip_fread(file.get(), &beyond, 1) != 0) return std::nullopt;
    return bytes;
}

bool addEntry(zip_t* archive, const char* name, Bytes bytes, bool compress) {
    zip_source_t* source = zip_source_buffer(archive, bytes.data(), bytes.size(), 0);
    const zip_int64_t index = source ? zip_file_add(archive, name, source, ZIP_FL_ENC_UTF_8) : -1;
    if (index < 0) {
        zip_source_free(source);
        return false;
    }
    const auto entry = static_cast<zip_uint64_t>(index);
    // The same document gives the same bytes: no time of day in it. 1980 is the earliest a zip file can say.
    constexpr std::uint16_t date1980 = 0x21;
    return zip_file_set_dostime(archive, entry, 0, date1980, 0) == 0 &&
           zip_set_file_compression(archive, entry, compress ? ZIP_CM_DEFLATE : ZIP_CM_STORE, 0) == 0;
}

Result<std::vector<std::uint8_t>> zipped(const std::filesystem::path& path, std::string_view json, Bytes thumbnail,
                                         Bytes photo, const Entries& mattes) {
    const auto failed = [&] {
        return base::fail(ErrorCode::unwritable, path, "The document could not be put together as a zip file.");
    };
    zip_source_t* target = zip_source_buffer_create(nullptr, 0, 0, nullptr);
    if (!target) return failed();
    zip_source_keep(target);
    const std::unique_ptr<zip_source_t, void (*)(zip_source_t*)> owned(target, zip_source_free);
    Archive archive(zip_open_from_source(target, ZIP_CREATE | ZIP_TRUNCATE, nullptr));
    if (!archive) return failed();
    const Bytes jsonBytes(reinterpret_cast<const std::uint8_t*>(json.data()), json.size());
    bool ok = addEntry(archive.get(), jsonEntry, jsonBytes, true);
    if (!thumbnail.empty()) ok = ok && addEntry(archive.get(), thumbnailEntry, thumbnail, false);
    if (!photo.empty()) ok = ok && addEntry(archive.get(), photoEntry, photo, false);
    for (const auto& [name, bytes] : mattes) ok = ok && addEntry(archive.get(), name.c_str(), bytes, false);
    if (!ok || zip_close(archive.get()) != 0) return failed();
    (void)archive.release();  // closed
    zip_source_open(target);
    zip_source_seek(target, 0, SEEK_END);
    std::vector<std::uint8_t> bytes(static_cast<std::size_t>(zip_source_tell(target)));
    zip_source_seek(target, 0, SEEK_SET);
    zip_source_read(target, bytes.data(), bytes.size());
    zip_source_close(target);
    return bytes;
}

bool isZip(Bytes b) {
    return b.size() >= 4 && b[0] == 'P' && b[1] == 'K' && b[2] == 3 && b[3] == 4;
}

// Each once, however many parts name it.
std::set<std::string> matteNames(const document::Document& document) {
    std::set<std::string> names;
    document::forEachCorrection(document, [&](const document::CorrectionPtr& correction) {
        for (const auto& part : correction->mask.parts) {
            const auto* matte = dynamic_cast<const mask::Matte*>(part->shape.get());
            if (matte && !matte->isAlpha()) names.insert(matte->file());
        }
    });
    return names;
}

Result<void> parseInto(StoredDocument& stored, const std::filesystem::path& path, Bytes text) {
    auto document = document::fromJsonText({reinterpret_cast<const char*>(text.data()), text.size()}, &stored.warnings);
    if (!document) {
        document.error().where = path.string();
        return tl::unexpected(document.error());
    }
    stored.document = std::move(*document);
    return {};
}

}  // namespace

bool looksLikeDocument(Bytes start) {
    if (isZip(start)) return true;
    constexpr std::uint8_t byteOrderMark[] = {0xef, 0xbb, 0xbf};  // as some editors write it before UTF-8
    if (start.size() >= 3 && std::equal(std::begin(byteOrderMark), std::end(byteOrderMark), start.begin()))
        start = start.subspan(3);
    constexpr std::string_view jsonSpace = " \t\r\n";  // RFC 8259, section 2
    const auto first = std::find_if(start.begin(), start.end(), [&](std::uint8_t c) {
        return jsonSpace.find(static_cast<char>(c)) == jsonSpace.npos;
    });
    return first != start.end() && *first == '{';
}

Result<StoredDocument> readDocument(const std::filesystem::path& path) {
    const auto stamp = stampOf(path);
    const auto bytes = readFile(path);
    if (!bytes) return tl::unexpected(bytes.error());
    auto stored = readDocument(*bytes, path);
    if (stored) stored->stamp = stamp;
    return stored;
}

Result<StoredDocument> readDocument(Bytes bytes, const std::filesystem::path& path) {
    base::countLongWork();
    StoredDocument stored;
    if (!isZip(bytes)) {
        if (auto read = parseInto(stored, path, bytes); !read) return tl::unexpected(read.error());
        return stored;
    }
    const Archive archive = openArchive(bytes);
    if (!archive) return damagedDocument(path, "it ends too early or is not a valid zip file");
    const auto json = readEntry(archive.get(), jsonEntry, maxJsonBytes, bytes.size());
    if (!json) return damagedDocument(path, "its document.json is missing or cannot be unpacked");
    if (auto read = parseInto(stored, path, *json); !read) return tl::unexpected(read.error());
    if (stored.document->photo.packed) {
        auto photo = readEntry(archive.get(), photoEntry, maxPhotoBytes, bytes.size());
        if (!photo) return damagedDocument(path, "the photo packed into it is missing or cannot be unpacked");
        stored.packedPhoto = std::move(*photo);
    }
    for (const std::string& name : matteNames(*stored.document)) {
        if (auto matte = readEntry(archive.get(), name.c_str(), maxMatteBytes, bytes.size()))
            stored.mattes.emplace_back(name, std::move(*matte));
    }
    return stored;
}

Result<void> writeDocument(const std::filesystem::path& path, const document::Document& document, Bytes thumbnailPng,
                           Bytes packedPhoto, const Entries& mattes, const WriteRules& rules) {
    const std::string json = document::toJsonText(document);
    auto bytes = zipped(path, json, thumbnailPng, document.photo.packed ? packedPhoto : Bytes(), mattes);
    if (!bytes) return tl::unexpected(bytes.error());
    auto file = PendingFile::create(path, rules);
    if (!file) return tl::unexpected(file.error());
    if (auto written = file->write(*bytes); !written) return written;
    bytes->clear();
    bytes->shrink_to_fit();
    if (auto closed = file->close(); !closed) return closed;
    const auto back = readDocument(file->temporaryPath());
    const bool same = back && document::toJsonText(*back->document) == json && back->mattes.size() == mattes.size() &&
                      (!document.photo.packed || back->packedPhoto.size() == packedPhoto.size());
    if (!same) {
        return base::fail(
            ErrorCode::failed, path,
            "The document was not saved, since it could not be opened again; the old file is as it was. " +
                (back ? std::string("It would not come back the same.") : back.error().message));
    }
    return file->commit();
}

std::optional<std::vector<std::uint8_t>> readThumbnail(const std::filesystem::path& path) {
    base::countLongWork();
    const auto file = HeldFile::open(path);
    if (!file) return std::nullopt;
    const auto start = (*file)->firstBytes(enoughToTell);
    if (!start || !isZip(*start)) return std::nullopt;
    const auto bytes = (*file)->read();
    if (!bytes) return std::nullopt;
    const Archive archive = openArchive(*bytes);
    return archive ? readEntry(archive.get(), thumbnailEntry, maxThumbnailBytes, bytes->size()) : std::nullopt;
}

}  // namespace dimhem::io
