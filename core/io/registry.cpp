#include "core/io/registry.h"

#include <algorithm>

#include "core/base/long_work.h"
#include "core/colour/icc.h"
#include "core/io/exr.h"
#include "core/io/held_file.h"
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

// Photos of linear light come converted already.
void checkProfile(image::Photo& photo) {
    if (photo.linear) photo.profile.clear();
    const int channels = photo.samples.colourChannels();
    if (photo.profile.empty() || colour::IccTransform::toWorking(photo.profile, channels)) return;
    photo.profile.clear();
    photo.warnings.push_back(
        std::string("The photo's colour profile is damaged or made for other kinds of pictures; ") +
        (channels == 1 ? "its grey is" : "its colours are") + " taken as sRGB.");
}

Result<image::Photo> readWith(Bytes bytes, std::string_view shownName,
                              const std::function<Result<Decoded>(const Format&)>& decode) {
    base::countLongWork();
    const Format* format = formatOf(bytes);
    if (!format) {
        return base::fail(ErrorCode::unknownFormat, std::string(shownName),
                          "\"" + std::string(shownName) +
                              "\" is not a photo in any format the program reads (JPEG, PNG, TIFF, WebP, OpenEXR).");
    }
    auto decoded = named(decode(*format), shownName);
    if (!decoded) return tl::unexpected(decoded.error());
    EmbeddedMetadata embedded = readMetadata(bytes);
    image::Photo photo = std::move(decoded->photo);
    photo.samples = image::oriented(std::move(photo.samples), decoded->orientation.value_or(embedded.orientation));
    photo.metadata = std::move(embedded.metadata);
    if (photo.profile.empty() && !photo.linear) photo.profile = std::move(embedded.profile);
    checkProfile(photo);
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

Result<image::Photo> readPhoto(Bytes bytes, std::string_view shownName, const Reading& reading) {
    return readWith(bytes, shownName, [&](const Format& format) { return format.read(bytes, reading); });
}

Result<image::Photo> readPhoto(const std::filesystem::path& path, const Reading& reading) {
    const auto bytes = photoFileBytes(path);
    if (!bytes) return tl::unexpected(bytes.error());
    return readPhoto(*bytes, path.filename().string(), reading);
}

Result<std::vector<std::uint8_t>> photoFileBytes(const std::filesystem::path& path) {
    const auto file = HeldFile::open(path);
    if (!file) return tl::unexpected(file.error());
    auto start = (*file)->firstBytes(enoughToTell);
    if (start && (start->empty() || formatOf(*start))) return (*file)->read();
    return start;
}

Result<image::Photo> readSmallPhoto(Bytes bytes, std::string_view shownName, int longSidePx) {
    return readWith(bytes, shownName, [&](const Format& format) -> Result<Decoded> {
        if (!format.readSmall)
            return base::fail(ErrorCode::unsupported, std::string(shownName), "This format has no small version.");
        return format.readSmall(bytes, {}, longSidePx);
    });
}

}  // namespace dimhem::io
