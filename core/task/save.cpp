#include "core/task/save.h"

#include "core/io/document_file.h"
#include "core/task/export.h"
#include "core/task/matte_file.h"

namespace dimhem::task {

namespace {

namespace fs = std::filesystem;

constexpr int thumbnailPx = 320;
constexpr std::size_t thumbnailCacheBytes = std::size_t{32} << 20;

std::string relativePath(const fs::path& photo, const fs::path& document) {
    std::error_code ignored;
    const fs::path folder = fs::absolute(document, ignored).lexically_normal().parent_path();
    const fs::path relative = photo.lexically_relative(folder);
    return relative.empty() ? photo.string() : relative.string();
}

}  // namespace

base::Result<void> save(const Opened& opened, const document::DocumentPtr& version, const fs::path& path, bool pack) {
    const PackedMattes packed = packedMattes(version);
    document::Document written = *packed.document;
    std::vector<std::uint8_t> copy = opened.packedPhoto;
    if (!opened.photoPath.empty()) {
        written.photo.path = relativePath(opened.photoPath, path);
        if (pack) {
            auto bytes = io::readFile(opened.photoPath);
            if (!bytes) return tl::unexpected(bytes.error());
            copy = std::move(*bytes);
        }
    }
    if (auto* picture = std::get_if<document::BackdropPicture>(&written.backdrop))
        picture->path = relativePath(fs::absolute(picture->path), path);
    written.photo.packed = !copy.empty();
    const render::Renderer renderer(opened.photo, std::make_shared<render::TileCache>(thumbnailCacheBytes));
    return io::writeDocument(path, written, thumbnailPng(renderer, version, thumbnailPx), copy, packed.entries);
}

}  // namespace dimhem::task
