#include "core/task/masked_colours.h"

#include <algorithm>
#include <cmath>

#include "core/adjust/spill_suppression.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/task/probe.h"

namespace dimhem::task {

namespace {

constexpr double mostPixels = 250'000;
constexpr std::size_t bins = 100;

mask::Area lookAt(const render::Renderer& renderer) {
    const base::Size size = renderer.photo().size();
    const int level = image::levelOfAtMost(size, mostPixels, renderer.photo().levels() - 1);
    return {base::rectOf(image::levelSize(size, level)), level};
}

// Sums of weighed colours, to mean and spread.
class Sums {
public:
    void add(const colour::Lab& lab, double weight) {
        const double v[3] = {lab.l, lab.a, lab.b};
        weight_ += weight;
        for (std::size_t i = 0; i < 3; ++i) {
            sum_[i] += weight * v[i];
            squares_[i] += weight * v[i] * v[i];
        }
    }
    double weight() const { return weight_; }
    adjust::ColourSpread spread() const {
        adjust::ColourSpread out;
        for (std::size_t i = 0; i < 3; ++i) {
            out.mean[i] = sum_[i] / weight_;
            out.spread[i] = std::sqrt(std::max(0.0, squares_[i] / weight_ - out.mean[i] * out.mean[i]));
        }
        return out;
    }

private:
    double weight_ = 0;
    std::array<double, 3> sum_{}, squares_{};
};

std::size_t binOf(double encoded) {
    return static_cast<std::size_t>(std::clamp(encoded, 0.0, 0.9999) * bins);
}

// How much of each pixel counts: the mask's coverage, times the photo's own alpha where it has one.
image::Plane<float> weightsOf(const render::Renderer& renderer, const mask::Area& area,
                              const mask::Coverage& coverage) {
    image::Plane<float> weights(area.rect.size());
    const bool hasAlpha = renderer.photo().photo().samples.hasAlpha();
    if (hasAlpha) {
        image::EncodedPlanes unused(area.rect.size());
        renderer.photo().read(area.rect, area.level, unused, &weights);
    }
    for (int y = 0; y < area.rect.height(); ++y) {
        for (int x = 0; x < area.rect.width(); ++x) {
            const std::uint16_t covered = coverage.isConstant() ? coverage.value() : coverage.row(y)[x];
            float& weight = weights.row(y)[static_cast<std::size_t>(x)];
            weight = (hasAlpha ? weight : 1.0f) * static_cast<float>(covered) / kernel::fullCoverage;
        }
    }
    return weights;
}

bool anyAbove(const image::Plane<float>& plane, float least) {
    for (int y = 0; y < plane.size().height; ++y) {
        const auto row = plane.row(y);
        if (std::any_of(row.begin(), row.end(), [=](float v) { return v > least; })) return true;
    }
    return false;
}

Colours coloursUnder(const image::EncodedPlanes& picture, const image::Plane<float>& weights) {
    Colours out;
    out.tones.resize(bins);
    for (auto& channel : out.channels) channel.resize(bins);
    Sums sums;
    double clipped = 0;
    for (int y = 0; y < picture.size().height; ++y) {
        for (int x = 0; x < picture.size().width; ++x) {
            const double weight = weights.row(y)[static_cast<std::size_t>(x)];
            if (weight <= 0) continue;
            const colour::EncodedRgb c = pixelOf(picture, x, y);
            sums.add(colour::labFromEncoded(c), weight);
            out.tones[binOf(colour::encodedFromLinear(colour::luminance(colour::linearFromEncoded(c))))] += weight;
            out.channels[0][binOf(c.r)] += weight;
            out.channels[1][binOf(c.g)] += weight;
            out.channels[2][binOf(c.b)] += weight;
            constexpr double black = 0.5 / 255, white = 1 - black;
            if (std::max({c.r, c.g, c.b}) >= white || std::max({c.r, c.g, c.b}) <= black) clipped += weight;
        }
    }
    out.lab = sums.spread();
    out.clippedPct = 100 * clipped / sums.weight();
    return out;
}

}  // namespace

std::optional<MaskedColours> maskedColours(const render::Renderer& renderer, const document::DocumentPtr& document,
                                           document::Id correction, const base::CancelToken& cancel) {
    const mask::Area area = lookAt(renderer);
    const mask::CoveragePtr coverage = renderer.coverage(render::Sequence(document, {}), correction, area);
    if (coverage->isEmpty() || cancel.cancelled()) return std::nullopt;
    const image::Plane<float> weights = weightsOf(renderer, area, *coverage);
    render::Comparison before, after;
    before.stopBefore = correction;
    after.stopAfter = correction;
    image::EncodedPlanes picture(area.rect.size());
    renderer.picture(render::Sequence(document, before), area, picture);
    if (cancel.cancelled()) return std::nullopt;
    MaskedColours out;
    if (!anyAbove(weights, 0)) return std::nullopt;  // all of it transparent
    out.before = coloursUnder(picture, weights);
    renderer.picture(render::Sequence(document, after), area, picture);
    if (cancel.cancelled()) return std::nullopt;
    out.after = coloursUnder(picture, weights);
    return out;
}

std::optional<adjust::ColourSpread> coloursIn(const render::Renderer& renderer, const render::Sequence& sequence,
                                              const base::Rect& photoRect) {
    const std::optional<image::EncodedPlanes> picture = pictureIn(renderer, sequence, photoRect);
    if (!picture) return std::nullopt;
    Sums sums;
    for (int y = 0; y < picture->size().height; ++y) {
        for (int x = 0; x < picture->size().width; ++x) sums.add(colour::labFromEncoded(pixelOf(*picture, x, y)), 1);
    }
    return sums.spread();
}

std::optional<double> commonScreenHue(const render::Renderer& renderer) {
    const mask::Area area = lookAt(renderer);
    image::EncodedPlanes picture(area.rect.size());
    renderer.photo().read(area.rect, area.level, picture);
    constexpr std::size_t sectors = 72;  // of five degrees
    constexpr double strong = 0.12;      // chroma, max - min channel
    std::array<double, sectors> sum{}, turned{};
    for (int y = 0; y < area.rect.height(); ++y) {
        for (int x = 0; x < area.rect.width(); ++x) {
            const colour::EncodedRgb c = pixelOf(picture, x, y);
            const double chroma = chromaOf(c);
            if (chroma < strong) continue;
            const double hue = adjust::screenHueOf(c);
            const auto sector = static_cast<std::size_t>(hue / 5) % sectors;
            sum[sector] += chroma * chroma;
            turned[sector] += chroma * chroma * (hue - 5 * static_cast<double>(sector));
        }
    }
    const auto most = std::max_element(sum.begin(), sum.end());
    if (*most <= 0) return std::nullopt;
    const auto sector = static_cast<std::size_t>(most - sum.begin());
    return 5 * static_cast<double>(sector) + turned[sector] / *most;
}

}  // namespace dimhem::task
