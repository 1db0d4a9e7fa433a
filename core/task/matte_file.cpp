#include "core/task/matte_file.h"

#include <algorithm>
#include <cstring>
#include <map>

#include "core/document/edits.h"
#include "core/image/limits.h"
#include "core/io/png.h"
#include "core/io/registry.h"

namespace dimhem::task {

namespace {

std::uint16_t coverageOf(const float* pixel, int channels) {
    // Luma of the encoded colours (ITU-R BT.709 weights): what a grey version of the picture would hold.
    const float v = channels >= 3 ? 0.2126f * pixel[0] + 0.7152f * pixel[1] + 0.0722f * pixel[2] : pixel[0];
    return static_cast<std::uint16_t>(std::clamp(v, 0.0f, 1.0f) * 65535 + 0.5f);
}

template <class Change>
document::DocumentPtr withEachMatte(const document::DocumentPtr& document, Change change) {
    return document::withEachCorrection(*document, [&](const document::CorrectionPtr& correction) {
        document::Correction next = *correction;
        bool changes = false;
        for (mask::PartPtr& part : next.mask.parts) {
            const auto matte = std::dynamic_pointer_cast<const mask::Matte>(part->shape);
            if (!matte || matte->isAlpha()) continue;
            if (mask::ShapePtr changed = change(*matte)) {
                mask::Part other = *part;
                other.shape = std::move(changed);
                part = std::make_shared<const mask::Part>(std::move(other));
                changes = true;
            }
        }
        return changes ? std::make_shared<const document::Correction>(std::move(next)) : correction;
    });
}

}  // namespace

base::Result<mask::MattePixels> mattePixels(io::Bytes bytes, std::string_view shownName, const io::Reading& reading) {
    const auto photo = io::readPhoto(bytes, shownName, reading);
    if (!photo) return tl::unexpected(photo.error());
    const image::Samples& samples = photo->samples;
    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(samples.size());
    const int channels = samples.channels();
    std::vector<float> row(static_cast<std::size_t>(samples.size().width) * static_cast<std::size_t>(channels));
    for (int y = 0; y < samples.size().height; ++y) {
        samples.readRow(y, 0, samples.size().width, row.data());
        for (int x = 0; x < samples.size().width; ++x)
            pixels->row(y)[static_cast<std::size_t>(x)] = coverageOf(row.data() + x * channels, channels);
    }
    return pixels;
}

base::Result<std::shared_ptr<const mask::Matte>> readMatte(const std::filesystem::path& path,
                                                           const io::Reading& reading) {
    const auto bytes = io::photoFileBytes(path);
    if (!bytes) return tl::unexpected(bytes.error());
    auto pixels = mattePixels(*bytes, path.filename().string(), reading);
    if (!pixels) return tl::unexpected(pixels.error());
    return std::make_shared<const mask::Matte>(path.string(), *pixels);
}

std::vector<std::uint8_t> mattePng(const image::Plane<std::uint16_t>& pixels) {
    io::Picture picture;
    picture.size = pixels.size();
    picture.channels = 1;
    picture.type = image::SampleType::u16;
    picture.rows = [&](int y0, int y1, std::byte* rows) -> base::Result<void> {
        const std::size_t rowBytes = 2 * static_cast<std::size_t>(pixels.size().width);
        for (int y = y0; y < y1; ++y, rows += rowBytes) std::memcpy(rows, pixels.row(y).data(), rowBytes);
        return {};
    };
    return io::pngBytes(picture);
}

document::DocumentPtr withMattes(
    const document::DocumentPtr& document,
    const std::function<std::optional<std::vector<std::uint8_t>>(const std::string&)>& read, std::string& missing,
    const io::Reading& reading) {
    std::map<std::string, mask::MattePixels> known;  // many parts may name the same picture
    std::int64_t pixelsSoFar = 0;
    return withEachMatte(document, [&](const mask::Matte& matte) -> mask::ShapePtr {
        auto found = known.find(matte.file());
        if (found == known.end()) {
            const auto bytes = read(matte.file());
            auto pixels = bytes && pixelsSoFar < image::maxPixels
                              ? mattePixels(*bytes, matte.file(), reading)
                              : base::Result<mask::MattePixels>(mask::MattePixels());
            found = known.emplace(matte.file(), pixels ? *pixels : mask::MattePixels()).first;
            if (found->second) pixelsSoFar += std::int64_t{found->second->size().width} * found->second->size().height;
        }
        if (found->second) return std::make_shared<mask::Matte>(matte.file(), found->second);
        missing = matte.file();
        return nullptr;
    });
}

PackedMattes packedMattes(const document::DocumentPtr& document) {
    PackedMattes packed;
    packed.document = withEachMatte(document, [&](const mask::Matte& matte) -> mask::ShapePtr {
        if (!matte.pixels()) return nullptr;
        const std::string name = "matte-" + std::to_string(packed.entries.size() + 1) + ".png";
        packed.entries.emplace_back(name, mattePng(*matte.pixels()));
        return std::make_shared<mask::Matte>(name, matte.pixels());
    });
    return packed;
}

}  // namespace dimhem::task
