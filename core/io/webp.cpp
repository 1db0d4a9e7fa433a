#include "core/io/webp.h"

#include <webp/decode.h>

#include <cstring>

namespace dimhem::io {

namespace {

bool matches(Bytes b) {
    return b.size() >= 12 && std::memcmp(b.data(), "RIFF", 4) == 0 && std::memcmp(b.data() + 8, "WEBP", 4) == 0;
}

base::Result<image::Photo> read(Bytes bytes) {
    WebPBitstreamFeatures features;
    if (WebPGetFeatures(bytes.data(), bytes.size(), &features) != VP8_STATUS_OK) {
        return damaged("WebP", "ends before the picture begins, or its beginning is not valid");
    }
    if (features.has_animation) return unsupported("WebP", "holds an animation");
    const int channels = features.has_alpha ? 4 : 3;
    if (auto fits = checkSize("WebP", static_cast<std::uint64_t>(features.width),
                              static_cast<std::uint64_t>(features.height), channels, image::SampleType::u8);
        !fits) {
        return tl::unexpected(fits.error());
    }
    image::Photo photo;
    photo.format = "WebP";
    photo.samples = image::Samples({features.width, features.height}, channels, image::SampleType::u8);
    auto* to = reinterpret_cast<std::uint8_t*>(photo.samples.row(0));
    const auto decode = channels == 4 ? WebPDecodeRGBAInto : WebPDecodeRGBInto;
    if (!decode(bytes.data(), bytes.size(), to, photo.samples.bytes(), static_cast<int>(photo.samples.rowBytes()))) {
        return damaged("WebP", "ends too early or its picture cannot be decoded");
    }
    return photo;
}

constexpr std::string_view extensions[] = {"webp"};

}  // namespace

const Format webp = {"WebP", extensions, matches, read, nullptr, nullptr, {}, false};

}  // namespace dimhem::io
