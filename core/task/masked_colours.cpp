#include "core/task/masked_colours.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "core/adjust/spill_suppression.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/image/tiles.h"
#include "core/kernel/lab_rows.h"
#include "core/task/probe.h"

namespace dimhem::task {

namespace {

constexpr std::size_t bins = 100;

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

// The bin of the encoded luminance of an L*, the same tone in the terms of curves.
std::size_t toneOf(double lightness) {
    constexpr std::size_t steps = 4096;
    static const auto table = [] {
        std::array<std::uint8_t, steps> bin{};
        for (std::size_t i = 0; i < steps; ++i) {
            const double l = 100 * (static_cast<double>(i) + 0.5) / steps;
            const double y = colour::xyzFromLab({l, 0, 0}).y;
            bin[i] = static_cast<std::uint8_t>(binOf(colour::encodedFromLinear(y)));
        }
        return bin;
    }();
    return table[static_cast<std::size_t>(std::clamp(lightness / 100, 0.0, 0.9999) * steps)];
}

Colours coloursUnder(const image::EncodedPlanes& picture, const image::Plane<float>& weights,
                     const render::WrittenColours& written) {
    Colours out;
    out.tones.resize(bins);
    out.lightness.resize(bins);
    for (auto& channel : out.channels) channel.resize(bins);
    Sums sums;
    std::vector<check::Fault> faults;
    const auto width = static_cast<std::size_t>(picture.size().width);
    image::EncodedPlanes labs({picture.size().width, 1});
    for (int y = 0; y < picture.size().height; ++y) {
        written.faultsOf(picture, y, faults);
        std::ranges::copy(picture.red.row(y), labs.red.row(0).begin());
        std::ranges::copy(picture.green.row(y), labs.green.row(0).begin());
        std::ranges::copy(picture.blue.row(y), labs.blue.row(0).begin());
        kernel::labRow(kernel::rowOf(labs, 0), width);
        for (int x = 0; x < picture.size().width; ++x) {
            const double weight = weights.row(y)[static_cast<std::size_t>(x)];
            if (weight <= 0) continue;
            const colour::EncodedRgb c = pixelOf(picture, x, y);
            const auto column = static_cast<std::size_t>(x);
            const colour::Lab lab{labs.red.row(0)[column], labs.green.row(0)[column], labs.blue.row(0)[column]};
            sums.add(lab, weight);
            out.chroma += weight * std::sqrt(lab.a * lab.a + lab.b * lab.b);
            out.tones[toneOf(lab.l)] += weight;
            out.lightness[binOf(lab.l / 100)] += weight;
            out.channels[0][binOf(c.r)] += weight;
            out.channels[1][binOf(c.g)] += weight;
            out.channels[2][binOf(c.b)] += weight;
            out.faultPct[static_cast<std::size_t>(faults[static_cast<std::size_t>(x)])] += weight;
        }
    }
    out.lab = sums.spread();
    out.chroma /= sums.weight();
    for (double& pct : out.faultPct) pct *= 100 / sums.weight();
    return out;
}

std::array<double, check::faults> newFaults(const MaskedPictures& pictures, const render::WrittenColours& written) {
    std::array<double, check::faults> pct{};
    double all = 0;
    std::vector<check::Fault> was, is;
    for (int y = 0; y < pictures.weights.size().height; ++y) {
        written.faultsOf(pictures.before, y, was);
        written.faultsOf(pictures.after, y, is);
        const auto weights = pictures.weights.row(y);
        for (std::size_t x = 0; x < weights.size(); ++x) {
            const double weight = weights[x];
            all += weight;
            if (is[x] != was[x] && is[x] != check::Fault::none) pct[static_cast<std::size_t>(is[x])] += weight;
        }
    }
    for (double& share : pct) share *= 100 / all;
    return pct;
}

}  // namespace

std::optional<MaskedColours> maskedColours(const render::Renderer& renderer, const document::DocumentPtr& document,
                                           document::Id correction, const base::CancelToken& cancel) {
    const auto pictures = maskedPictures(renderer, document, correction, cancel);
    if (!pictures) return std::nullopt;
    return coloursOf(*pictures, render::WrittenColours(renderer.photo().photo()));
}

MaskedColours coloursOf(const MaskedPictures& pictures, const render::WrittenColours& written) {
    return {coloursUnder(pictures.before, pictures.weights, written),
            coloursUnder(pictures.after, pictures.weights, written), newFaults(pictures, written)};
}

std::optional<MaskedColours> wholeColours(const render::Renderer& renderer, const document::DocumentPtr& document,
                                          const base::CancelToken& cancel) {
    const auto pictures = wholePictures(renderer, document, cancel);
    if (!pictures) return std::nullopt;
    return coloursOf(*pictures, render::WrittenColours(renderer.photo().photo()));
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
