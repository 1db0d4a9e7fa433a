#include "core/adjust/noise_level.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

namespace dimhem::adjust {

namespace {

constexpr int side = 8, stepPx = 11;
constexpr std::size_t mostBlocks = 14000, fewBlocks = 24;
// Of a normal distribution, the mean square of the nine tenths nearest to its middle, over that of all: it is cut at
// t = 1.6449 sigma, and 1 - 2 t phi(t) / 0.9 is left.
constexpr double partOfNormal = 0.6230;
constexpr double blackest = 3.0 / 255, whitest = 252.0 / 255;  // beyond, noise is clipped

using Block = std::array<float, side * side>;

int ring(std::size_t i) {
    return static_cast<int>(i / side + i % side);
}

// The orthonormal DCT of rows and columns.
Block transformed(const Block& in) {
    static const std::array<float, side* side> basis = [] {
        std::array<float, side * side> b{};
        for (int k = 0; k < side; ++k) {
            for (int x = 0; x < side; ++x) {
                const double scale = std::sqrt((k == 0 ? 1.0 : 2.0) / side);
                b[static_cast<std::size_t>(k * side + x)] =
                    static_cast<float>(scale * std::cos(std::numbers::pi * (x + 0.5) * k / side));
            }
        }
        return b;
    }();
    Block rows{}, out{};
    for (std::size_t y = 0; y < side; ++y) {
        for (std::size_t k = 0; k < side; ++k) {
            for (std::size_t x = 0; x < side; ++x) rows[y * side + k] += basis[k * side + x] * in[y * side + x];
        }
    }
    for (std::size_t k = 0; k < side; ++k) {
        for (std::size_t x = 0; x < side; ++x) {
            for (std::size_t y = 0; y < side; ++y) out[k * side + x] += basis[k * side + y] * rows[y * side + x];
        }
    }
    return out;
}

struct Place {
    int x, y;
    double tone;  // the mean of Y
};

double meanOf(const image::Plane<float>& plane, int x, int y) {
    double sum = 0;
    for (int j = 0; j < side; ++j) {
        for (int i = 0; i < side; ++i) sum += plane.row(y + j)[static_cast<std::size_t>(x + i)];
    }
    return sum / (side * side);
}

std::vector<Place> placesOn(const image::Plane<float>& luminance, const image::Plane<float>& coverage) {
    const base::Size size = luminance.size();
    const double area = static_cast<double>(size.width) * size.height;
    const int step = std::max(stepPx, static_cast<int>(std::sqrt(area / static_cast<double>(mostBlocks))) | 1);
    std::vector<Place> places;
    for (int y = 3; y + side <= size.height; y += step) {
        for (int x = 5; x + side <= size.width; x += step) {
            if (x % side == 0 || y % side == 0) continue;
            const double tone = meanOf(luminance, x, y);
            const bool counts = coverage.size().empty() || meanOf(coverage, x, y) > 0.9;
            if (counts && tone > blackest && tone < whitest) places.push_back({x, y, tone});
        }
    }
    return places;
}

std::size_t toneOf(double mean) {
    return std::min(noiseTones - 1, static_cast<std::size_t>(std::max(0.0, mean) * noiseTones));
}

Block blockAt(const image::Plane<float>& plane, const Place& place) {
    Block block;
    for (int j = 0; j < side; ++j) std::copy_n(plane.row(place.y + j).data() + place.x, side, block.begin() + j * side);
    return transformed(block);
}

using ByTone = std::array<std::vector<Block>, noiseTones>;

// The coefficients of a block in two halves, fours of neighbours by turns: noise in the one says nothing of noise in
// the other, while a texture, whatever its phase, shows in both.
int halfOf(std::size_t coefficient) {
    return static_cast<int>((coefficient % side / 2 + coefficient / side / 2) % 2);
}

double energyOf(const Block& block, int half) {
    double sum = 0;
    for (std::size_t i = 0; i < block.size(); ++i) {
        if (halfOf(i) == half && ring(i) >= 2 && ring(i) <= 8) sum += static_cast<double>(block[i]) * block[i];
    }
    return sum;
}

// The flattest quarter of each tone, by the one half of their coefficients, for the other to be measured on.
class FlatBlocks {
public:
    explicit FlatBlocks(const ByTone& all) {
        for (std::size_t tone = 0; tone < noiseTones; ++tone) {
            for (const int half : {0, 1}) flat_[half][tone] = flattest(all[tone], 1 - half);
        }
    }
    const std::vector<Block>& of(std::size_t tone, std::size_t coefficient) const {
        return flat_[halfOf(coefficient)][tone];
    }

private:
    static std::vector<Block> flattest(std::vector<Block> blocks, int byHalf) {
        const std::size_t kept = std::min(blocks.size(), std::max(fewBlocks, blocks.size() / 4));
        std::partial_sort(blocks.begin(), blocks.begin() + static_cast<std::ptrdiff_t>(kept), blocks.end(),
                          [=](const Block& a, const Block& b) { return energyOf(a, byHalf) < energyOf(b, byHalf); });
        blocks.resize(kept);
        return blocks;
    }

    ByTone flat_[2];  // by the half they are for
};

// The mean square of all but a tenth of the blocks' coefficients, those of the largest amount, over what it would be of
// a normal distribution's.
double varianceOf(const std::vector<Block>& blocks, std::size_t coefficient, std::vector<float>& scratch) {
    if (blocks.empty()) return 0;
    scratch.clear();
    for (const Block& block : blocks) scratch.push_back(block[coefficient] * block[coefficient]);
    const auto kept = std::max<std::size_t>(1, scratch.size() * 9 / 10);
    std::nth_element(scratch.begin(), scratch.begin() + static_cast<std::ptrdiff_t>(kept - 1), scratch.end());
    double sum = 0;
    for (std::size_t i = 0; i < kept; ++i) sum += static_cast<double>(scratch[i]);
    return sum / (static_cast<double>(kept) * partOfNormal);
}

using ByBand = std::array<double, noiseBands>;

// The mean variance of a tone's coefficients in each band.
ByBand variancesOf(const FlatBlocks& blocks, std::size_t tone, std::vector<float>& scratch) {
    ByBand sums{}, counts{};
    for (std::size_t i = 0; i < 64; ++i) {
        if (ring(i) < 4) continue;
        const std::size_t band = kernel::bandOf(ring(i));
        sums[band] += varianceOf(blocks.of(tone, i), i, scratch);
        ++counts[band];
    }
    for (std::size_t band = 0; band < noiseBands; ++band) sums[band] /= counts[band];
    return sums;
}

// Takes the texture out of the coarse bands: more than so many times what the flattest tone has there, beside a fine
// band, is not noise.
void takeOutTexture(std::array<ByBand, noiseTones>& variances, const std::array<double, noiseTones>& weights) {
    constexpr double enough = 0.03, most = 1.1;
    constexpr std::size_t fine = 2;
    double total = 0;
    for (const double weight : weights) total += weight;
    const ByBand* flattest = nullptr;
    for (std::size_t tone = 0; tone < noiseTones; ++tone) {
        if (weights[tone] < std::max<double>(fewBlocks, enough * total)) continue;
        if (!flattest || variances[tone][0] + variances[tone][1] < (*flattest)[0] + (*flattest)[1])
            flattest = &variances[tone];
    }
    if (!flattest || (*flattest)[fine] <= 0) return;
    const ByBand shape = *flattest;
    for (ByBand& tone : variances) {
        for (std::size_t band = 0; band < fine; ++band) {
            tone[band] = std::min(tone[band], most * tone[fine] * shape[band] / shape[fine]);
        }
    }
}

// Over neighbouring tones, each by how many blocks it has; tones without any take those of their neighbours.
void evenOut(std::array<double, noiseTones>& sigma, const std::array<double, noiseTones>& weights) {
    const auto measured = sigma;
    for (std::size_t i = 0; i < noiseTones; ++i) {
        double sum = 0, total = 0;
        for (std::size_t j = 0; j < noiseTones; ++j) {
            const double away = static_cast<double>(i) - static_cast<double>(j);
            // A far tone counts for next to nothing where a near one is known.
            const double weight = weights[j] * (std::exp(-away * away / 2) + 1e-6 * std::exp(-std::abs(away)));
            sum += weight * measured[j];
            total += weight;
        }
        sigma[i] = total > 0 ? sum / total : 0;
    }
}

}  // namespace

void NoiseMeter::add(const image::EncodedPlanes& picture, const image::Plane<float>& coverage) {
    const auto combined = [&](float r, float g, float b) {
        return image::planeOf(picture.size(), [&](int x, int y) {
            const auto i = static_cast<std::size_t>(x);
            return r * picture.red.row(y)[i] + g * picture.green.row(y)[i] + b * picture.blue.row(y)[i];
        });
    };
    const image::Plane<float> y = combined(1.0f / 3, 1.0f / 3, 1.0f / 3), u = combined(0.5f, 0, -0.5f),
                              v = combined(0.25f, -0.5f, 0.25f);
    for (const Place& place : placesOn(y, coverage))
        blocks_.push_back({blockAt(y, place), blockAt(u, place), blockAt(v, place), place.tone});
}

NoiseOfPlane NoiseMeter::levelOf(Block Blocks::*plane) const {
    NoiseOfPlane noise;
    noise.blocks = blocks_.size();
    if (blocks_.empty()) return noise;
    ByTone byTone;
    for (const Blocks& block : blocks_) byTone[toneOf(block.tone)].push_back(block.*plane);
    const FlatBlocks blocks(byTone);
    std::vector<float> scratch;
    std::array<double, noiseTones> weights{};
    std::array<ByBand, noiseTones> variances{};
    for (std::size_t tone = 0; tone < noiseTones; ++tone) {
        weights[tone] = static_cast<double>(blocks.of(tone, 0).size());
        variances[tone] = variancesOf(blocks, tone, scratch);
    }
    takeOutTexture(variances, weights);
    for (std::size_t band = 0; band < noiseBands; ++band) {
        for (std::size_t tone = 0; tone < noiseTones; ++tone)
            noise.sigma[band][tone] = std::sqrt(variances[tone][band]);
        evenOut(noise.sigma[band], weights);
    }
    std::vector<double> ofBlocks;
    for (const Blocks& block : blocks_) ofBlocks.push_back(noise.ofTone(toneOf(block.tone)));
    const auto middle = ofBlocks.begin() + static_cast<std::ptrdiff_t>(ofBlocks.size() / 2);
    std::nth_element(ofBlocks.begin(), middle, ofBlocks.end());
    noise.overall = *middle;
    return noise;
}

double NoiseOfPlane::ofTone(std::size_t tone) const {
    constexpr double coarse = 11, middle = 22;  // coefficients of the first two bands that are measured
    const double a = sigma[0][tone], b = sigma[1][tone];
    return std::sqrt((coarse * a * a + middle * b * b) / (coarse + middle));
}

NoiseLevel NoiseMeter::level() const {
    return {levelOf(&Blocks::y), levelOf(&Blocks::u), levelOf(&Blocks::v)};
}

}  // namespace dimhem::adjust
