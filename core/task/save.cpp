#include "core/task/save.h"

#include <algorithm>
#include <array>
#include <fstream>

#include "core/io/document_file.h"
#include "core/io/registry.h"
#include "core/task/export.h"
#include "core/task/kept_files.h"
#include "core/task/matte_file.h"

namespace dimhem::task {

namespace {

namespace fs = std::filesystem;

constexpr int thumbnailPx = 320;

std::string relativePath(const fs::path& photo, const fs::path& document) {
    std::error_code ignored;
    const fs::path folder = fs::absolute(document, ignored).lexically_normal().parent_path();
    const fs::path relative = photo.lexically_relative(folder);
    return relative.empty() ? photo.string() : relative.string();
}

bool isPhoto(const fs::path& path) {
    std::ifstream file(path, std::ios::binary);
    std::array<char, 64> start{};
    file.read(start.data(), start.size());
    const auto count = static_cast<std::size_t>(std::max<std::streamsize>(file.gcount(), 0));
    return io::formatOf({reinterpret_cast<const std::uint8_t*>(start.data()), count}) != nullptr;
}

// What must be asked, or is refused, before anything is written.
base::Result<void> mayReplace(const Opened& opened, const fs::path& path, const SaveSettings& settings) {
    const std::string name = io::quoted(path);
    const auto there = io::stampOf(path);
    if (!there) return {};
    if (isPhoto(path)) {
        return base::fail(base::ErrorCode::unwritable, path,
                          name + " is a photo: choose another name for the document. Nothing was changed.");
    }
    const auto own = io::stampOf(opened.documentPath);
    const bool isOwn = own && own->device == there->device && own->inode == there->inode;
    if (isOwn && opened.documentStamp && *there != *opened.documentStamp && !settings.replaceChanged) {
        return base::fail(base::ErrorCode::changedOnDisk, path,
                          name + " has been written by another program since it was opened here.");
    }
    if (isOwn && opened.hasOtherCopy && !settings.replaceCopy) {
        return base::fail(base::ErrorCode::losesCopy, path,
                          name +
                              " holds a copy of its photo, which is not the photo in use; saving over it would lose "
                              "that copy.");
    }
    return {};
}

// The photo the corrections were made on, wherever it lies now.
base::Result<std::vector<std::uint8_t>> photoBytes(const Opened& opened, const document::Document& version) {
    auto bytes = opened.photoFile ? opened.photoFile->read() : io::readFile(opened.photoPath);
    if (!bytes) return bytes;
    if (!version.photo.sha256.empty() && io::sha256(*bytes) != version.photo.sha256) {
        return base::fail(base::ErrorCode::failed, opened.photoPath,
                          io::quoted(opened.photoPath) +
                              " has been written by another program since it was opened, so it was not packed; save "
                              "without packing, or open it again. Nothing was changed.");
    }
    return bytes;
}

// Where there is no memory for it a document is saved without: it is what is worked on that counts.
std::vector<std::uint8_t> smallPicture(const Opened& opened, const document::DocumentPtr& version,
                                       const SaveSettings& settings, const base::CancelToken& cancel) {
    try {
        if (settings.renderer) return thumbnailPng(*settings.renderer, version, thumbnailPx, cancel);
        const render::Renderer renderer = rendererOf(opened);
        return thumbnailPng(renderer, version, thumbnailPx, cancel);
    } catch (const std::bad_alloc&) {
        return {};
    }
}

base::Result<Saved> saved(const Opened& opened, const document::DocumentPtr& version, const fs::path& path,
                          const SaveSettings& settings, const base::CancelToken& cancel) {
    const io::WriteRules rules = saveRules(opened, *version, settings.replaceReadOnly);
    if (const auto target = io::writableTarget(path, rules); !target) return tl::unexpected(target.error());
    if (auto may = mayReplace(opened, path, settings); !may) return tl::unexpected(may.error());
    const PackedMattes packed = packedMattes(version);
    document::Document written = *packed.document;
    std::shared_ptr<const std::vector<std::uint8_t>> copy = opened.packedPhoto;
    if (!opened.photoPath.empty()) {
        written.photo.path = relativePath(opened.photoPath, path);
        if (settings.pack) {
            auto bytes = photoBytes(opened, *version);
            if (!bytes) return tl::unexpected(bytes.error());
            copy = std::make_shared<const std::vector<std::uint8_t>>(std::move(*bytes));
        }
    }
    if (auto* picture = std::get_if<document::BackdropPicture>(&written.backdrop))
        picture->path = relativePath(fs::absolute(picture->path), path);
    written.photo.packed = copy != nullptr;
    const std::vector<std::uint8_t> thumbnail = smallPicture(opened, version, settings, cancel);
    base::throwIfCancelled(cancel);
    auto done =
        io::writeDocument(path, written, thumbnail, copy ? io::Bytes(*copy) : io::Bytes(), packed.entries, rules);
    if (!done) return tl::unexpected(done.error());
    return Saved{io::stampOf(path).value_or(io::FileStamp{}), copy};
}

}  // namespace

base::Result<Saved> save(const Opened& opened, const document::DocumentPtr& version, const fs::path& path,
                         const SaveSettings& settings, const base::CancelToken& cancel) {
    return base::unlessCancelled("Saving was stopped; no file was written.",
                                 [&] { return saved(opened, version, path, settings, cancel); });
}

}  // namespace dimhem::task
