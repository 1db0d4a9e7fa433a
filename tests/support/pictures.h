// Small made pictures for tests: seeded, the same on every machine.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstring>
#include <memory>
#include <random>

#include "core/image/photo.h"

namespace dimhem::tests {

// A smooth scene with some texture, in the given type and number of channels; alpha fades from left to right.
inline image::Photo madePhoto(base::Size size, int channels = 3, image::SampleType type = image::SampleType::u8,
                              std::uint32_t seed = 1) {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, channels, type);
    std::mt19937 random(seed);
    for (int y = 0; y < size.height; ++y) {
        std::byte* to = photo.samples.row(y);
        for (int x = 0; x < size.width; ++x) {
            for (int c = 0; c < channels; ++c) {
                const double wave = 0.5 + 0.3 * std::sin(0.07 * x + c) + 0.15 * std::cos(0.05 * y - 2 * c);
                double v = std::clamp(wave + 0.04 * (random() / 4294967296.0 - 0.5), 0.0, 1.0);
                if (photo.samples.hasAlpha() && c == channels - 1) v = static_cast<double>(x) / size.width;
                if (type == image::SampleType::u8) {
                    const auto s = static_cast<std::uint8_t>(v * 255 + 0.5);
                    std::memcpy(to, &s, sizeof s);
                } else if (type == image::SampleType::u16) {
                    const auto s = static_cast<std::uint16_t>(v * 65535 + 0.5);
                    std::memcpy(to, &s, sizeof s);
                } else {
                    const auto s = static_cast<float>(v);
                    std::memcpy(to, &s, sizeof s);
                }
                to += image::bytesOf(type);
            }
        }
    }
    return photo;
}

inline std::shared_ptr<const image::Photo> sharedPhoto(base::Size size, int channels = 3,
                                                       image::SampleType type = image::SampleType::u8) {
    return std::make_shared<const image::Photo>(madePhoto(size, channels, type));
}

inline bool sameSamples(const image::Samples& a, const image::Samples& b) {
    return a.size() == b.size() && a.channels() == b.channels() && a.type() == b.type() &&
           std::memcmp(a.row(0), b.row(0), a.bytes()) == 0;
}

}  // namespace dimhem::tests
