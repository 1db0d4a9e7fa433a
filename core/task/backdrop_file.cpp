#include "core/task/backdrop_file.h"

#include "core/io/registry.h"
#include "core/render/photo_source.h"

namespace dimhem::task {

base::Result<document::BackdropPicture> readBackdrop(const std::filesystem::path& path, const io::Reading& reading) {
    const auto bytes = io::photoFileBytes(path);
    if (!bytes) return tl::unexpected(bytes.error());
    auto photo = io::readPhoto(*bytes, path.filename().string(), reading);
    if (!photo) return tl::unexpected(photo.error());
    std::error_code ignored;
    document::BackdropPicture picture;
    picture.path = std::filesystem::absolute(path, ignored).lexically_normal().string();
    picture.photo = std::make_shared<const image::Photo>(std::move(*photo));
    // Its profile must be one that can be used: said now, not found out while drawing.
    if (const auto source = render::PhotoSource::make(picture.photo); !source) return tl::unexpected(source.error());
    picture.key = base::keyOfBytes(bytes->data(), bytes->size());
    return picture;
}

}  // namespace dimhem::task
