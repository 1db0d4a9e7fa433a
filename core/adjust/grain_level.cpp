#include "core/adjust/grain_level.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

namespace dimhem::adjust {

namespace {

using image::Plane;

constexpr int side = 16;

Plane<float> combined(const image::EncodedPlanes& from, float r, float g, float b) {
    return image::planeOf(from.size(), [&](int x, int y) {
        const auto i = static_cast<std::size_t>(x);
        return r * from.red.row(y)[i] + g * from.green.row(y)[i] + b * from.blue.row(y)[i];
    });
}

double meanOver(const Plane<float>& plane, int x0, int y0) {
    double sum = 0;
    for (int y = y0; y < y0 + side; ++y) {
        for (int x = x0; x < x0 + side; ++x) sum += double{plane.row(y)[static_cast<std::size_t>(x)]};
    }
    return sum / (side * side);
}

// The mean square of second differences over so many pixels, along and across, inside a block.
double roughness(const Plane<float>& plane, int x0, int y0, int by) {
    double sum = 0;
    int count = 0;
    for (int y = y0 + by; y < y0 + side - by; ++y) {
        for (int x = x0 + by; x < x0 + side - by; ++x, count += 2) {
            const auto at = [&](int column, int row) {
                return double{plane.row(row)[static_cast<std::size_t>(column)]};
            };
            const double twice = 2 * at(x, y), along = at(x - by, y) + at(x + by, y) - twice,
                         across = at(x, y - by) + at(x, y + by) - twice;
            sum += along * along + across * across;
        }
    }
    return sum / count;
}

double medianOf(std::vector<double>& values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

double correlation(double sizePx, double d) {
    return sizePx > 0 ? std::exp(-d * d / (4 * sizePx * sizePx)) : 0;
}

// The size whose ratio of second differences over 1 and 2 pixels is that.
double sizeOf(double ratio) {
    constexpr double largest = 4, step = 0.02;
    double best = 0, least = 1e9;
    for (double size = 0; size <= largest; size += step) {
        const double off =
            std::abs(std::log(secondDifferenceOfGrain(size, 1) / secondDifferenceOfGrain(size, 2)) - std::log(ratio));
        if (off < least) {
            least = off;
            best = size;
        }
    }
    return best;
}

}  // namespace

double secondDifferenceOfGrain(double sizePx, double d) {
    return 6 - 8 * correlation(sizePx, d) + 2 * correlation(sizePx, 2 * d);
}

void GrainMeter::add(const image::EncodedPlanes& picture, const Plane<float>& coverage) {
    const base::Size size = picture.size();
    const Plane<float> y = combined(picture, 1.0f / 3, 1.0f / 3, 1.0f / 3), u = combined(picture, 0.5f, 0, -0.5f);
    constexpr double leastCovered = 0.9;
    const auto seen = [&](int column, int row) -> std::optional<Block> {
        if (coverage.size().width > 0 && meanOver(coverage, column, row) <= leastCovered) return std::nullopt;
        const double tone = meanOver(y, column, row);
        constexpr double black = 3.0 / 255, white = 252.0 / 255;
        if (tone < black || tone > white) return std::nullopt;
        return Block{tone, roughness(y, column, row, 4), roughness(y, column, row, 1), roughness(y, column, row, 2),
                     roughness(u, column, row, 2)};
    };
    for (int row = 0; row + side <= size.height; row += side) {
        for (int column = 0; column + 2 * side <= size.width; column += 2 * side) {
            auto left = seen(column, row), right = seen(column + side, row);
            if (!left || !right) continue;
            std::swap(left->flat, right->flat);
            blocks_.push_back(*left);
            blocks_.push_back(*right);
        }
    }
}

GrainLevel GrainMeter::level() const {
    GrainLevel level;
    level.blocks = blocks_.size();
    std::array<std::vector<Block>, grainTones> byTone;
    for (const Block& block : blocks_)
        byTone[std::min(grainTones - 1, static_cast<std::size_t>(block.tone * grainTones))].push_back(block);
    std::array<double, grainTones> coarse{}, weights{};
    std::vector<double> ratios, colours, variances;
    for (std::size_t tone = 0; tone < grainTones; ++tone) {
        std::vector<Block>& blocks = byTone[tone];
        if (blocks.empty()) continue;
        // The flattest quarter, four at least; an edge in some of them does not move the median.
        std::ranges::sort(blocks, {}, &Block::flat);
        blocks.resize(std::min(blocks.size(), std::max<std::size_t>(4, blocks.size() / 4)));
        std::vector<double> found;
        for (const Block& block : blocks) {
            found.push_back(block.coarse);
            variances.push_back(block.coarse);
            if (block.coarse <= 0) continue;
            ratios.push_back(block.fine / block.coarse);
            colours.push_back(block.colourCoarse / block.coarse);
        }
        weights[tone] = static_cast<double>(blocks.size());
        coarse[tone] = medianOf(found);
    }
    if (ratios.empty()) return level;
    // A tone of which there is little but edges says more than grain has: three times the usual at most.
    constexpr double mostVariance = 9;
    const double usual = medianOf(variances);
    for (double& value : coarse) value = std::min(value, mostVariance * usual);
    level.sizePx = sizeOf(std::max(medianOf(ratios), 1e-6));
    level.colour = std::sqrt(medianOf(colours));
    const double perVariance = secondDifferenceOfGrain(level.sizePx, 2);
    // Evened out over neighbouring tones, so that those nobody saw have what is nearest.
    for (std::size_t tone = 0; tone < grainTones; ++tone) {
        double sum = 0, all = 0;
        for (std::size_t other = 0; other < grainTones; ++other) {
            const double away = static_cast<double>(other) - static_cast<double>(tone);
            const double weight = weights[other] * std::exp(-away * away / 2) + 1e-6 * weights[other];
            sum += weight * coarse[other];
            all += weight;
        }
        level.sigma[tone] = std::sqrt(sum / all / perVariance);
    }
    return level;
}

}  // namespace dimhem::adjust
