// Pictures whose truth is known: the demo photos' own, and faults laid on them by us.
#pragma once

#include <cmath>
#include <filesystem>
#include <functional>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/io/registry.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/matte.h"
#include "core/render/photo_source.h"

namespace dimhem::tests {

inline const std::filesystem::path demoFolder = std::filesystem::path(DIMHEM_SOURCE_DIR) / "demo";

inline image::EncodedPlanes readPicture(const std::filesystem::path& path) {
    auto photo = io::readPhoto(path);
    const auto source = *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(*photo)));
    image::EncodedPlanes out(source->size());
    source->read(base::rectOf(source->size()), 0, out);
    return out;
}

inline colour::EncodedRgb colourAt(const image::EncodedPlanes& picture, int x, int y) {
    const auto column = static_cast<std::size_t>(x);
    return {picture.red.row(y)[column], picture.green.row(y)[column], picture.blue.row(y)[column]};
}

inline void setColour(image::EncodedPlanes& picture, int x, int y, const colour::EncodedRgb& c) {
    const auto column = static_cast<std::size_t>(x);
    picture.red.row(y)[column] = static_cast<float>(c.r);
    picture.green.row(y)[column] = static_cast<float>(c.g);
    picture.blue.row(y)[column] = static_cast<float>(c.b);
}

inline image::EncodedPlanes croppedTo(const image::EncodedPlanes& picture, const base::Rect& rect) {
    image::EncodedPlanes out(rect.size());
    for (int y = 0; y < rect.height(); ++y) {
        for (int x = 0; x < rect.width(); ++x) setColour(out, x, y, colourAt(picture, rect.x0 + x, rect.y0 + y));
    }
    return out;
}

// Encoded sRGB in 16 bits, as a photo.
inline std::shared_ptr<const render::PhotoSource> photoOf(const image::EncodedPlanes& picture) {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(picture.size(), 3, image::SampleType::u16);
    for (int y = 0; y < picture.size().height; ++y) {
        auto* to = reinterpret_cast<std::uint16_t*>(photo.samples.row(y));
        for (int x = 0; x < picture.size().width; ++x) {
            const colour::EncodedRgb c = colourAt(picture, x, y);
            for (const double v : {c.r, c.g, c.b})
                *to++ = static_cast<std::uint16_t>(std::clamp(v, 0.0, 1.0) * 65535 + 0.5);
        }
    }
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

inline mask::MattePixels matteOf(base::Size size, const std::function<double(int, int)>& covered) {
    image::Plane<std::uint16_t> plane(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x)
            plane.row(y)[static_cast<std::size_t>(x)] =
                static_cast<std::uint16_t>(covered(x, y) * kernel::fullCoverage + 0.5);
    }
    return std::make_shared<const image::Plane<std::uint16_t>>(std::move(plane));
}

// The mean CIEDE2000 where the matte covers more than a half.
inline double meanDifference(const image::EncodedPlanes& a, const image::EncodedPlanes& b,
                             const image::Plane<std::uint16_t>& matte) {
    double sum = 0, count = 0;
    for (int y = 0; y < matte.size().height; ++y) {
        for (int x = 0; x < matte.size().width; ++x) {
            if (matte.row(y)[static_cast<std::size_t>(x)] <= kernel::fullCoverage / 2) continue;
            sum +=
                colour::ciede2000(colour::labFromEncoded(colourAt(a, x, y)), colour::labFromEncoded(colourAt(b, x, y)));
            ++count;
        }
    }
    return sum / count;
}

}  // namespace dimhem::tests
