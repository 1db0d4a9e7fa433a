#include "core/task/sample_rows.h"

#include <algorithm>
#include <cstring>

#include "core/kernel/sample_rows.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::task {

using image::SampleType;

namespace {

void store(float value, SampleType type, std::byte*& to) {
    const auto scaled = [value](float full) { return std::clamp(value, 0.0f, 1.0f) * full + 0.5f; };
    switch (type) {
        case SampleType::u8: {
            *to = static_cast<std::byte>(scaled(255));
            break;
        }
        case SampleType::u16: {
            const auto v = static_cast<std::uint16_t>(scaled(65535));
            std::memcpy(to, &v, sizeof v);
            break;
        }
        case SampleType::f32: std::memcpy(to, &value, sizeof value); break;
    }
    to += image::bytesOf(type);
}

}  // namespace

base::Result<SampleRows> SampleRows::make(const image::Photo& photo, SampleType type, bool alpha, bool corrected,
                                          bool opaque) {
    SampleRows rows;
    const image::Samples& samples = photo.samples;
    const bool grey = samples.colourChannels() == 1 && !corrected;
    rows.type_ = type;
    rows.opaque_ = opaque || !samples.hasAlpha();
    rows.channels_ = (grey ? 1 : 3) + (alpha && samples.hasAlpha() ? 1 : 0);
    rows.sameLayout_ = type == samples.type() && rows.channels_ == samples.channels() && !photo.linear;
    const bool keepsProfile = !photo.linear && (grey || samples.colourChannels() == 3);
    if (keepsProfile) rows.profile_ = photo.profile;
    if (!keepsProfile || (photo.linear && photo.profile.empty())) rows.profile_ = colour::srgbProfile();
    const bool converts = keepsProfile && !photo.profile.empty() && (grey || !colour::isSrgb(photo.profile));
    if (converts) {
        auto transform = colour::IccTransform::fromWorking(photo.profile, grey ? 1 : 3);
        if (!transform) return tl::unexpected(transform.error());
        rows.fromWorking_ = std::move(*transform);
    }
    rows.roundTripsExactly_ = !converts && type != SampleType::f32;
    return rows;
}

void SampleRows::pack(const render::PhotoSource& photo, const base::Rect& rect, const image::EncodedPlanes* corrected,
                      std::byte* to, std::size_t rowBytes) const {
    const image::Samples& samples = photo.photo().samples;
    const auto width = static_cast<std::size_t>(rect.width());
    const bool copies = sameLayout_ && !corrected;
    // Where the way through float and profile is not exact, pixels that no correction changed are found by comparing.
    const bool compares = sameLayout_ && corrected && !roundTripsExactly_;
    image::EncodedPlanes original;
    if (compares || (!corrected && !copies)) {
        original = image::EncodedPlanes(rect.size());
        photo.read(rect, 0, original);
    }
    const image::EncodedPlanes& picture = corrected ? *corrected : original;
    const auto channels = static_cast<std::size_t>(samples.channels());
    std::vector<float> raw(opaque_ ? 0 : width * channels), alpha(opaque_ ? 0 : width);
    for (int y = rect.y0; y < rect.y1; ++y, to += rowBytes) {
        const std::byte* from = samples.row(y) + samples.pixelBytes() * static_cast<std::size_t>(rect.x0);
        if (copies) {
            std::memcpy(to, from, width * samples.pixelBytes());
            continue;
        }
        if (!opaque_) {
            samples.readRow(y, rect.x0, rect.x1, raw.data());
            for (std::size_t x = 0; x < width; ++x) alpha[x] = raw[(x + 1) * channels - 1];
        }
        packRow(picture, y - rect.y0, opaque_ ? nullptr : alpha.data(), to);
        for (std::size_t x = 0; compares && x < width; ++x) {
            const int row = y - rect.y0;
            const bool same = picture.red.row(row)[x] == original.red.row(row)[x] &&
                              picture.green.row(row)[x] == original.green.row(row)[x] &&
                              picture.blue.row(row)[x] == original.blue.row(row)[x];
            if (same) std::memcpy(to + x * pixelBytes(), from + x * pixelBytes(), pixelBytes());
        }
    }
}

void SampleRows::pack(const image::RgbaPlanes& picture, std::byte* to, std::size_t rowBytes) const {
    for (int y = 0; y < picture.alpha.size().height; ++y, to += rowBytes)
        packRow(picture.colours, y, opaque_ ? nullptr : picture.alpha.row(y).data(), to);
}

void SampleRows::packRow(const image::EncodedPlanes& picture, int row, const float* alpha, std::byte* to) const {
    const auto width = static_cast<std::size_t>(picture.size().width);
    const bool plain = !fromWorking_ && channels_ == 3 && !alpha;
    const float* planes[3] = {picture.red.row(row).data(), picture.green.row(row).data(), picture.blue.row(row).data()};
    if (plain && type_ == SampleType::u8)
        return kernel::samplesFromPlanes(planes, reinterpret_cast<std::uint8_t*>(to), width);
    if (plain && type_ == SampleType::u16)
        return kernel::samplesFromPlanes(planes, reinterpret_cast<std::uint16_t*>(to), width);
    const auto colours = static_cast<std::size_t>(channels_ <= 2 ? 1 : 3);
    std::vector<float> rgb(width * 3), out(width * colours);
    for (std::size_t x = 0; x < width; ++x) {
        for (std::size_t c = 0; c < 3; ++c) rgb[x * 3 + c] = planes[c][x];
    }
    if (fromWorking_) {
        kernel::decodeRow(rgb.data(), rgb.size());
        fromWorking_->row(rgb.data(), out.data(), width);
    } else if (colours == 3) {
        out = rgb;
    } else {
        for (std::size_t x = 0; x < width; ++x) out[x] = rgb[x * 3];
    }
    const bool keepsAlpha = channels_ % 2 == 0;
    for (std::size_t x = 0; x < width; ++x) {
        const float part = alpha ? alpha[x] : 1.0f;
        // A format without alpha gets the cut-out on white.
        for (std::size_t c = 0; c < colours; ++c)
            store(keepsAlpha ? out[x * colours + c] : 1 + (out[x * colours + c] - 1) * part, type_, to);
        if (keepsAlpha) store(part, type_, to);
    }
}

}  // namespace dimhem::task
