#include "core/io/registry.h"

#include <algorithm>

#include "core/base/long_work.h"

#include "core/io/exr.h"
#include "core/io/jpeg.h"
#include "core/io/metadata.h"
#include "core/io/png.h"
#include "core/io/tiff.h"
#include "core/io/webp.h"

namespace dimhem::io {

using base::ErrorCode;
using base::Result;

namespace {

template <class T>
Result<T> named(Result<T> result, std::string_view shownName) {
    if (!result && result.error().where.empty()) result.error().where = std::string(shownName);
    return result;
}

Result<image::Photo> readWith(Bytes bytes, std::string_view shownName,
                              const std::function<Result<image::Photo>(const Format&)>& decode) {
    base::countLongWork();
    const Format* format = formatOf(bytes);
    if (!format) {
        return base::fail(ErrorCode::unknownFormat, std::string(shownName),
                          "\"" + std::string(shownName) +
                              "\" is not a photo in any format the program reads (JPEG, PNG, TIFF, WebP, OpenEXR).");
    }
    auto photo = named(decode(*format), shownName);
    if (!photo) return photo;
    EmbeddedMetadata embedded = readMetadata(bytes);
    photo->samples = image::oriented(std::move(photo->samples), embedded.orientation);
    photo->metadata = std::move(embedded.metadata);
    if (photo->profile.empty()) photo->profile = std::move(embedded.profile);
    return photo;
}

}  // namespace

std::span<const Format* const> formats() {
    static constexpr const Format* all[] = {&jpeg, &png, &tiff, &webp, &exr};
    return all;
}

const Format* formatOf(Bytes start) {
    const auto found =
        std::find_if(formats().begin(), formats().end(), [&](const Format* f) { return f->matches(start); });
    return found == formats().end() ? nullptr : *found;
}

const Format* formatByExtension(std::string_view fileName) {
    const std::size_t dot = fileName.rfind('.');
    if (dot == std::string_view::npos) return nullptr;
    std::string extension(fileName.substr(dot + 1));
    std::transform(extension.begin(), extension.end(), extension.begin(),
                   [](unsigned char c) { return std::tolower(c); });
    for (const Format* format : formats()) {
        if (std::find(format->extensions.begin(), format->extensions.end(), extension) != format->extensions.end())
            return format;
    }
    return nullptr;
}

Result<image::Photo> readPhoto(Bytes bytes, std::string_view shownName) {
    return readWith(bytes, shownName, [&](const Format& format) { return format.read(bytes); });
}

Result<image::Photo> readPhoto(const std::filesystem::path& path) {
    const auto bytes = readFile(path);
    if (!bytes) return tl::unexpected(bytes.error());
    return readPhoto(*bytes, path.filename().string());
}

Result<image::Photo> readSmallPhoto(Bytes bytes, std::string_view shownName, int longSidePx) {
    return readWith(bytes, shownName, [&](const Format& format) -> Result<image::Photo> {
        if (!format.readSmall)
            return base::fail(ErrorCode::unsupported, std::string(shownName), "This format has no small version.");
        return format.readSmall(bytes, longSidePx);
    });
}

}  // namespace dimhem::io
