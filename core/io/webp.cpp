#include "core/io/webp.h"

#include <webp/decode.h>
#include <webp/demux.h>

#include <algorithm>
#include <cstring>
#include <memory>

namespace dimhem::io {

namespace {

using base::Result;

bool matches(Bytes b) {
    return b.size() >= 12 && std::memcmp(b.data(), "RIFF", 4) == 0 && std::memcmp(b.data() + 8, "WEBP", 4) == 0;
}

tl::unexpected<base::Error> cannotBeDecoded() {
    return damaged("WebP", "ends too early or its picture cannot be decoded");
}

// The decoder keeps nothing of the bytes; it is shown a little more of them each time, so that it can be stopped.
Result<void> decodeInto(image::Samples& samples, Bytes bytes, const Reading& reading) {
    WebPDecoderConfig config;
    if (!WebPInitDecoderConfig(&config)) return cannotBeDecoded();
    config.output.colorspace = samples.channels() == 4 ? MODE_RGBA : MODE_RGB;
    config.output.is_external_memory = 1;
    config.output.u.RGBA = {reinterpret_cast<std::uint8_t*>(samples.row(0)), static_cast<int>(samples.rowBytes()),
                            samples.bytes()};
    const std::unique_ptr<WebPIDecoder, void (*)(WebPIDecoder*)> decoder(WebPIDecode(nullptr, 0, &config), WebPIDelete);
    if (!decoder) return cannotBeDecoded();
    constexpr std::size_t step = std::size_t{64} << 10;
    VP8StatusCode status = VP8_STATUS_SUSPENDED;
    for (std::size_t shown = 0; shown < bytes.size() && status == VP8_STATUS_SUSPENDED;) {
        shown = std::min(bytes.size(), shown + step);
        status = WebPIUpdate(decoder.get(), bytes.data(), shown);
        if (!reading.goOn(static_cast<double>(shown) / static_cast<double>(bytes.size()))) return stopped();
    }
    if (status == VP8_STATUS_OUT_OF_MEMORY)
        return base::fail(base::ErrorCode::outOfMemory, "", "There is not enough memory for this WebP file.");
    return status == VP8_STATUS_OK ? Result<void>() : cannotBeDecoded();
}

Result<image::Samples> readPicture(Bytes bytes, const Reading& reading) {
    WebPBitstreamFeatures features;
    if (WebPGetFeatures(bytes.data(), bytes.size(), &features) != VP8_STATUS_OK)
        return damaged("WebP", "ends before the picture begins, or its beginning is not valid");
    const int channels = features.has_alpha ? 4 : 3;
    if (auto fits =
            checkSize("WebP", static_cast<std::uint64_t>(features.width), static_cast<std::uint64_t>(features.height),
                      channels, image::SampleType::u8, bytes.size(), reading);
        !fits) {
        return tl::unexpected(fits.error());
    }
    image::Samples samples({features.width, features.height}, channels, image::SampleType::u8);
    if (auto ok = decodeInto(samples, bytes, reading); !ok) return tl::unexpected(ok.error());
    return samples;
}

Result<Decoded> readFirstFrame(Bytes bytes, const Reading& reading) {
    const WebPData data{bytes.data(), bytes.size()};
    WebPDemuxState state;
    const std::unique_ptr<WebPDemuxer, void (*)(WebPDemuxer*)> demuxer(WebPDemuxPartial(&data, &state),
                                                                       WebPDemuxDelete);
    WebPIterator frame;
    if (!demuxer || !WebPDemuxGetFrame(demuxer.get(), 1, &frame)) return cannotBeDecoded();
    const std::unique_ptr<WebPIterator, void (*)(WebPIterator*)> owned(&frame, WebPDemuxReleaseIterator);
    auto picture = readPicture({frame.fragment.bytes, frame.fragment.size}, reading);
    if (!picture) return tl::unexpected(picture.error());
    Decoded out;
    out.photo.format = "WebP";
    out.photo.samples = std::move(*picture);
    out.photo.warnings.push_back("The WebP file holds an animation; its first picture is read.");
    return out;
}

Result<Decoded> read(Bytes bytes, const Reading& reading) {
    WebPBitstreamFeatures features;
    if (WebPGetFeatures(bytes.data(), bytes.size(), &features) == VP8_STATUS_OK && features.has_animation)
        return readFirstFrame(bytes, reading);
    auto picture = readPicture(bytes, reading);
    if (!picture) return tl::unexpected(picture.error());
    Decoded out;
    out.photo.format = "WebP";
    out.photo.samples = std::move(*picture);
    return out;
}

constexpr std::string_view extensions[] = {"webp"};

}  // namespace

const Format webp = {
    .name = "WebP",
    .extensions = extensions,
    .matches = matches,
    .read = read,
};

}  // namespace dimhem::io
