#include "core/edge/colour_bins.h"

#include <algorithm>
#include <cmath>

namespace dimhem::edge {

namespace {

constexpr double spread = 2.5;            // deviations from the mean to the last bin, each way
constexpr double leastDeviation = 0.004;  // finer differences are not told apart

}  // namespace

ColourBins::ColourBins(const Guide& window) {
    const image::Plane<float>* channels[3] = {&window.l, &window.a, &window.b};
    const double n = static_cast<double>(window.size().width) * window.size().height;
    for (std::size_t c = 0; c < 3; ++c) {
        double sum = 0, square = 0;
        for (int y = 0; y < window.size().height; ++y) {
            for (const float v : channels[c]->row(y)) {
                sum += double{v};
                square += double{v} * double{v};
            }
        }
        const double mean = sum / n;
        const double deviation = std::max(leastDeviation, std::sqrt(std::max(0.0, square / n - mean * mean)));
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
