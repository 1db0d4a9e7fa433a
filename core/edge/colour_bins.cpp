#include "core/edge/colour_bins.h"

#include <algorithm>
#include <cmath>

namespace dimhem::edge {

namespace {

constexpr double spread = 2.5;            // deviations from the mean to the last bin, each way
constexpr double leastDeviation = 0.004;  // finer differences are not told apart

}  // namespace

ColourSums& ColourSums::operator+=(const ColourSums& other) {
    pixels += other.pixels;
    for (std::size_t c = 0; c < 3; ++c) {
        sum[c] += other.sum[c];
        square[c] += other.square[c];
    }
    return *this;
}

ColourSums colourSums(const Guide& guide, const base::Rect& area) {
    const image::Plane<float>* channels[3] = {&guide.l, &guide.a, &guide.b};
    ColourSums out;
    out.pixels = static_cast<double>(area.width()) * area.height();
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = area.y0; y < area.y1; ++y) {
            const auto row = channels[c]->row(y);
            for (int x = area.x0; x < area.x1; ++x) {
                const double v = double{row[x]};
                out.sum[c] += v;
                out.square[c] += v * v;
            }
        }
    }
    return out;
}

ColourBins::ColourBins(const ColourSums& window) {
    for (std::size_t c = 0; c < 3; ++c) {
        const double mean = window.sum[c] / window.pixels;
        const double variance = window.square[c] / window.pixels - mean * mean;
        const double deviation = std::max(leastDeviation, std::sqrt(std::max(0.0, variance)));
        start_[c] = static_cast<float>(mean - spread * deviation);
        perBin_[c] = static_cast<float>(perAxis / (2 * spread * deviation));
    }
}

std::size_t ColourBins::of(const Colour& colour) const {
    std::size_t bin = 0;
    for (std::size_t c = 0; c < 3; ++c) {
        const float at = std::clamp((colour[c] - start_[c]) * perBin_[c], 0.0f, static_cast<float>(perAxis - 1));
        bin = bin * perAxis + static_cast<std::size_t>(at);
    }
    return bin;
}

Colour ColourBins::centre(std::size_t bin) const {
    Colour colour;
    for (std::size_t c = 3; c-- > 0; bin /= perAxis)
        colour[c] = start_[c] + (static_cast<float>(bin % perAxis) + 0.5f) / perBin_[c];
    return colour;
}

double ColourBins::volume() const {
    double v = 1;
    for (const float perBin : perBin_) v *= perAxis / double{perBin};
    return v;
}

}  // namespace dimhem::edge
