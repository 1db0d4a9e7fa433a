#include "core/image/photo.h"

#include <algorithm>
#include <cstring>

#include "core/base/heap.h"

namespace dimhem::image {

std::size_t bytesOf(SampleType type) {
    switch (type) {
        case SampleType::u8: return 1;
        case SampleType::u16: return 2;
        case SampleType::f32: return 4;
    }
    return 0;
}

Samples::Samples(base::Size size, int channels, SampleType type) : size_(size), channels_(channels), type_(type) {
    data_ = std::make_unique_for_overwrite<std::byte[]>(bytes());
    base::preferLargePages(data_.get(), bytes());
}

void Samples::readRow(int y, int x0, int x1, float* interleaved) const {
    const std::byte* from = row(y) + pixelBytes() * static_cast<std::size_t>(x0);
    const std::size_t count = static_cast<std::size_t>(x1 - x0) * static_cast<std::size_t>(channels_);
    const auto scaled = [&](const auto* samples, float scale) {
        std::transform(samples, samples + count, interleaved,
                       [scale](auto v) { return static_cast<float>(v) / scale; });
    };
    switch (type_) {
        case SampleType::u8: scaled(reinterpret_cast<const std::uint8_t*>(from), 255.0f); break;
        case SampleType::u16: scaled(reinterpret_cast<const std::uint16_t*>(from), 65535.0f); break;
        case SampleType::f32: std::memcpy(interleaved, from, count * sizeof(float)); break;
    }
}

namespace {

struct Pixel {
    int x, y;
};

// Where the pixel at (x, y) of the upright picture stands in the stored one, by Exif orientation. For the turned
// orientations 5..8 rows and columns change places.
Pixel storedPixel(int x, int y, base::Size upright, int orientation) {
    const int right = upright.width - 1 - x;
    const int down = upright.height - 1 - y;
    switch (orientation) {
        case 2: return {right, y};
        case 3: return {right, down};
        case 4: return {x, down};
        case 5: return {y, x};
        case 6: return {y, right};
        case 7: return {down, right};
        case 8: return {down, x};
        default: return {x, y};
    }
}

}  // namespace

Samples oriented(Samples samples, int orientation) {
    if (orientation < 2 || orientation > 8) return samples;
    const base::Size stored = samples.size();
    const base::Size upright = orientation >= 5 ? base::Size{stored.height, stored.width} : stored;
    Samples turned(upright, samples.channels(), samples.type());
    const std::size_t pixel = samples.pixelBytes();
    for (int y = 0; y < upright.height; ++y) {
        std::byte* to = turned.row(y);
        for (int x = 0; x < upright.width; ++x, to += pixel) {
            const Pixel at = storedPixel(x, y, upright, orientation);
            std::memcpy(to, samples.row(at.y) + pixel * static_cast<std::size_t>(at.x), pixel);
        }
    }
    return turned;
}

}  // namespace dimhem::image
