#include "core/task/open.h"

#include "core/io/document_file.h"
#include "core/io/pending_file.h"
#include "core/io/registry.h"
#include "core/task/backdrop_file.h"
#include "core/task/chosen_files.h"
#include "core/task/matte_file.h"
#include "core/task/measuring.h"
#include "core/task/state_folder.h"

namespace dimhem::task {

using base::ErrorCode;
using base::Result;
namespace fs = std::filesystem;

namespace {

// Absolute, with "." and ".." worked out by name alone: links stay as the person knows them.
fs::path plain(const fs::path& path) {
    std::error_code ignored;
    return fs::absolute(path, ignored).lexically_normal();
}

void addWarning(Opened& opened, const std::string& sentence) {
    opened.warning += (opened.warning.empty() ? "" : " ") + sentence;
}

Result<void> decodeInto(Opened& opened, io::Bytes bytes, const std::string& shownName, const base::Workers& workers,
                        const io::Reading& reading) {
    auto photo = io::readPhoto(bytes, shownName, reading);
    if (!photo) return tl::unexpected(photo.error());
    for (const std::string& sentence : photo->warnings) addWarning(opened, sentence);
    auto source =
        render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(*photo)), workers, reading.cancel);
    if (!source) return tl::unexpected(source.error());
    opened.photo = std::move(*source);
    return {};
}

document::PhotoLink linkTo(const fs::path& photoPath, io::Bytes bytes, base::Size size) {
    return {photoPath.string(), false, io::sha256(bytes), size};
}

Result<Opened> openPhoto(const fs::path& path, std::shared_ptr<const io::HeldFile> file, io::Bytes bytes,
                         const base::Workers& workers, const io::Reading& reading) {
    Opened opened;
    opened.photoFile = std::move(file);
    opened.ceiling = reading.ceiling;
    opened.found = reading.found;
    opened.photoPath = plain(path);
    if (auto ok = decodeInto(opened, bytes, path.filename().string(), workers, reading); !ok)
        return tl::unexpected(ok.error());
    document::Document document;
    document.photo = linkTo(opened.photoPath, bytes, opened.photo->size());
    opened.document = std::make_shared<const document::Document>(std::move(document));
    return opened;
}

Result<std::shared_ptr<const io::HeldFile>> linkedPhoto(const fs::path& path) {
    auto file = io::HeldFile::open(path);
    if (file || file.error().code != ErrorCode::notFound) return file;
    return base::fail(ErrorCode::notFound, path,
                      "The photo of this document, \"" + path.filename().string() + "\", is no longer where it was.");
}

// From the document itself, else, for one written by hand, from beside it.
std::optional<std::vector<std::uint8_t>> readMatteFile(const io::StoredDocument& stored, Opened& opened,
                                                       const std::string& name) {
    for (const auto& [entry, bytes] : stored.mattes) {
        if (entry == name) return bytes;
    }
    const fs::path folder = opened.documentPath.parent_path(), place = folder / name;
    if (!mayRead(place, folder, stateFolder())) return std::nullopt;
    const auto file = io::HeldFile::open(place);
    if (!file) return std::nullopt;
    opened.otherFiles.push_back(*file);
    auto bytes = (*file)->read();
    return bytes ? std::optional(std::move(*bytes)) : std::nullopt;
}

// The document's photo, from inside it or from its place, and what is known of it now.
Result<void> openPhotoOf(Opened& opened, document::Document& document, io::StoredDocument& stored,
                         const std::optional<fs::path>& photoInstead, const base::Workers& workers,
                         const io::Reading& reading) {
    const fs::path& path = opened.documentPath;
    if (document.photo.packed && !photoInstead) {
        if (auto ok = decodeInto(opened, stored.packedPhoto, path.filename().string(), workers, reading); !ok)
            return tl::unexpected(ok.error());
        opened.packedPhoto = std::make_shared<const std::vector<std::uint8_t>>(std::move(stored.packedPhoto));
        // The file the copy was taken from may still be there.
        if (auto file = io::HeldFile::open(path.parent_path() / document.photo.path);
            file && !document.photo.path.empty())
            opened.otherFiles.push_back(*file);
        document.photo.size = opened.photo->size();
    } else {
        opened.hasOtherCopy = document.photo.packed;
        document.photo.packed = false;
        opened.photoPath = plain(photoInstead ? *photoInstead : path.parent_path() / document.photo.path);
        const auto file = linkedPhoto(opened.photoPath);
        if (!file) return tl::unexpected(file.error());
        opened.photoFile = *file;
        const auto bytes = (*file)->read();
        if (!bytes) return tl::unexpected(bytes.error());
        if (auto ok = decodeInto(opened, *bytes, opened.photoPath.filename().string(), workers, reading); !ok)
            return tl::unexpected(ok.error());
        const document::PhotoLink found = linkTo(opened.photoPath, *bytes, opened.photo->size());
        const bool sizeDiffers = !document.photo.size.empty() && document.photo.size != found.size;
        const bool differs = !document.photo.sha256.empty() && document.photo.sha256 != found.sha256;
        if (sizeDiffers) {
            addWarning(opened, "The photo has another size than when the corrections were made; masks may not fit.");
        } else if (differs) {
            addWarning(opened, "The photo has changed since the corrections were made.");
        }
        document.photo = found;
    }
    return {};
}

void openBackdropOf(Opened& opened, document::Document& document, const io::Reading& reading) {
    auto* behind = std::get_if<document::BackdropPicture>(&document.backdrop);
    if (!behind) return;
    const fs::path folder = opened.documentPath.parent_path(), place = plain(folder / behind->path);
    auto read = mayRead(place, folder, stateFolder())
                    ? readBackdrop(place, reading)
                    : base::fail(ErrorCode::notFound, place,
                                 "it lies elsewhere, at " + io::quoted(place) + "; choose it once to have it read.");
    if (read) {
        if (auto file = io::HeldFile::open(place)) opened.otherFiles.push_back(*file);
        *behind = std::move(*read);
    } else {
        behind->path = place.string();
        addWarning(opened, "The backdrop cannot be shown: " + read.error().message);
    }
}

// One written by hand need not say what its adjustments measure.
Result<void> measureAll(Opened& opened, const io::Reading& reading) {
    const render::Renderer renderer = rendererOf(opened);
    const auto measured = base::unlessCancelled("Opening was stopped.", [&]() -> Result<document::DocumentPtr> {
        return withAllMeasured(renderer, opened.document, reading.cancel);
    });
    if (!measured) return tl::unexpected(measured.error());
    opened.document = *measured;
    return {};
}

Result<Opened> openStored(io::StoredDocument stored, const fs::path& path, const std::optional<fs::path>& photoInstead,
                          const base::Workers& workers, const io::Reading& reading, Unstated unstated) {
    Opened opened;
    opened.ceiling = reading.ceiling;
    opened.found = reading.found;
    opened.documentPath = path.empty() ? fs::path() : plain(path);
    opened.documentStamp = stored.stamp;
    opened.differsFromFile = photoInstead.has_value();
    for (const std::string& sentence : stored.warnings) addWarning(opened, sentence);
    document::Document document = *stored.document;
    if (auto ok = openPhotoOf(opened, document, stored, photoInstead, workers, reading); !ok)
        return tl::unexpected(ok.error());
    openBackdropOf(opened, document, reading);
    std::string missing;
    opened.document = withMattes(
        std::make_shared<const document::Document>(std::move(document)),
        [&](const std::string& name) { return readMatteFile(stored, opened, name); }, missing, reading);
    if (unstated == Unstated::measured) {
        if (auto ok = measureAll(opened, reading); !ok) return tl::unexpected(ok.error());
    }
    if (!missing.empty()) addWarning(opened, "The matte \"" + missing + "\" cannot be read; its part covers nothing.");
    return opened;
}

}  // namespace

render::Renderer rendererOf(const Opened& opened, std::size_t cacheBytes) {
    return render::Renderer(opened.photo,
                            std::make_shared<render::TileCache>(cacheBytes, opened.ceiling, opened.found));
}

Result<Opened> openVersion(const document::DocumentPtr& version, const fs::path& path, const base::Workers& workers,
                           const io::Reading& reading) {
    io::StoredDocument stored;
    if (!path.empty()) {
        auto read = io::readDocument(path);
        if (read)
            stored = std::move(*read);
        else if (version->photo.packed)
            return tl::unexpected(read.error());
    }
    stored.document = version;
    stored.warnings.clear();
    auto opened = openStored(std::move(stored), path, std::nullopt, workers, reading, Unstated::measured);
    if (opened) opened->differsFromFile = true;
    return opened;
}

Result<Opened> open(const fs::path& path, const std::optional<fs::path>& photoInstead, const base::Workers& workers,
                    const io::Reading& reading, Unstated unstated) {
    const auto file = io::HeldFile::open(path);
    if (!file) return tl::unexpected(file.error());
    io::removeStaleFiles(plain(path).parent_path());  // of a run in this folder that was killed
    // What it is shows in its first bytes: a film is not read whole to be refused.
    const auto start = (*file)->firstBytes(io::enoughToTell);
    if (!start) return tl::unexpected(start.error());
    const bool isPhoto = io::formatOf(*start), isDocument = !isPhoto && io::looksLikeDocument(*start);
    const auto bytes = isPhoto || isDocument || start->empty() ? (*file)->read() : start;
    if (!bytes) return tl::unexpected(bytes.error());
    if (isDocument) {
        auto stored = io::readDocument(path);
        if (!stored) return tl::unexpected(stored.error());
        return openStored(std::move(*stored), path, photoInstead, workers, reading, unstated);
    }
    return openPhoto(path, *file, *bytes, workers, reading);
}

}  // namespace dimhem::task
