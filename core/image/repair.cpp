#include "core/image/repair.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>

namespace dimhem::image {

namespace {

template <class Number>
Number divided(Number colour, Number alpha) {
    if constexpr (std::is_floating_point_v<Number>) {
        return colour / alpha;
    } else {
        constexpr std::uint64_t most = std::numeric_limits<Number>::max();
        return static_cast<Number>(std::min(most, (std::uint64_t{colour} * most + alpha / 2) / alpha));
    }
}

template <class Number>
void divideRows(Samples& samples) {
    const int channels = samples.channels();
    for (int y = 0; y < samples.size().height; ++y) {
        auto* pixel = reinterpret_cast<Number*>(samples.row(y));
        for (int x = 0; x < samples.size().width; ++x, pixel += channels) {
            const Number alpha = pixel[channels - 1];
            if (!(alpha > 0)) continue;
            for (int c = 0; c < channels - 1; ++c) pixel[c] = divided(pixel[c], alpha);
        }
    }
}

}  // namespace

void divideByAlpha(Samples& samples) {
    if (!samples.hasAlpha()) return;
    switch (samples.type()) {
        case SampleType::u8: return divideRows<std::uint8_t>(samples);
        case SampleType::u16: return divideRows<std::uint16_t>(samples);
        case SampleType::f32: return divideRows<float>(samples);
    }
}

void makeFinite(Samples& samples) {
    if (samples.type() != SampleType::f32) return;
    constexpr float largestHalf = 65504;
    for (int y = 0; y < samples.size().height; ++y) {
        auto* values = reinterpret_cast<float*>(samples.row(y));
        const std::size_t count = samples.rowBytes() / sizeof(float);
        for (std::size_t i = 0; i < count; ++i) {
            if (!std::isfinite(values[i])) values[i] = values[i] > 0 ? largestHalf : 0;
        }
    }
}

}  // namespace dimhem::image
