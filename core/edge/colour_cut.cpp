#include "core/edge/colour_cut.h"

#include <algorithm>
#include <cmath>

#include "core/edge/barrier.h"
#include "core/edge/colour_mixture.h"
#include "core/edge/grid_cut.h"

namespace dimhem::edge {

namespace {

constexpr double mostCutLikely = 8;
constexpr double cutCostScale = 256;
constexpr double pull = 5;
constexpr double strangers = 0.05;  // the share of each side whose colours are unlike all that was seen of it
constexpr int certain = 1 << 20;

image::Plane<std::uint16_t> binsOf(const Guide& guide, const ColourBins& bins) {
    image::Plane<std::uint16_t> out(guide.size());
    for (int y = 0; y < guide.size().height; ++y) {
        for (int x = 0; x < guide.size().width; ++x)
            out.row(y)[x] =
                static_cast<std::uint16_t>(bins.of({guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]}));
    }
    return out;
}

ColourMixture mixtureOf(const ColourBins& bins, const image::Plane<std::uint16_t>& bin, const Sides& sides, Side side,
                        double noise) {
    std::vector<float> counts(ColourBins::count, 0.0f);
    for (int y = 0; y < sides.size().height; ++y) {
        for (int x = 0; x < sides.size().width; ++x) {
            if (sides.row(y)[x] == side) ++counts[bin.row(y)[x]];
        }
    }
    std::vector<ColourMixture::Sample> samples;
    for (std::size_t i = 0; i < counts.size(); ++i) {
        if (counts[i] > 0) samples.push_back({bins.centre(i), counts[i]});
    }
    return ColourMixture(samples, noise);
}

double meanContrast(const Guide& guide) {
    double sum = 0;
    for (int y = 0; y < guide.size().height; ++y) {
        for (int x = 1; x < guide.size().width; ++x) sum += squaredDifference(guide, x - 1, y, x, y);
    }
    return sum / (static_cast<double>(guide.size().width) * guide.size().height);
}

}  // namespace

image::Plane<float> evidence(const Guide& guide, const Sides& sides, double noise) {
    const ColourBins bins(colourSums(guide, base::rectOf(guide.size())));
    const image::Plane<std::uint16_t> bin = binsOf(guide, bins);
    const ColourMixture inside = mixtureOf(bins, bin, sides, Side::inside, noise);
    const ColourMixture outside = mixtureOf(bins, bin, sides, Side::outside, noise);
    // A colour unlike both sides says nothing: without this, the side with the wider spread would get it, such as the
    // shaded part of a thing whose light part was dragged over.
    const double stranger = strangers / bins.volume();
    const auto logOf = [stranger](double density) { return std::log(density + stranger); };
    std::vector<float> ratio(ColourBins::count, 0.0f);
    std::vector<bool> known(ColourBins::count, false);
    image::Plane<float> out(guide.size());
    for (int y = 0; y < guide.size().height; ++y) {
        for (int x = 0; x < guide.size().width; ++x) {
            const std::size_t i = bin.row(y)[x];
            if (!known[i]) {
                const Colour c = bins.centre(i);
                ratio[i] = static_cast<float>(
                    std::clamp(logOf(inside.density(c)) - logOf(outside.density(c)), -mostCutLikely, mostCutLikely));
                known[i] = true;
            }
            out.row(y)[x] = ratio[i];
        }
    }
    return out;
}

image::Plane<float> nearness(const Guide& guide, const Sides& sides, double noise) {
    constexpr double gain = 3, most = 6;
    const auto from = [&](Side side) {
        return barrierFrom(guide, [&](int x, int y) { return sides.row(y)[x] == side; });
    };
    const image::Plane<float> inside = from(Side::inside), outside = from(Side::outside);
    const double flat = 0.004 + noise;
    image::Plane<float> out(guide.size());
    for (int y = 0; y < guide.size().height; ++y) {
        for (int x = 0; x < guide.size().width; ++x) {
            const double ratio = (double{outside.row(y)[x]} + flat) / (double{inside.row(y)[x]} + flat);
            out.row(y)[x] = static_cast<float>(std::clamp(gain * std::log(ratio), -most, most));
        }
    }
    return out;
}

GridCut gridAlongEdges(const Guide& guide) {
    const base::Size size = guide.size();
    const double beta = 1 / (2 * std::max(1e-7, meanContrast(guide)));
    GridCut grid(size.width * size.height);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            for (int k = 4; k < 8; ++k) {
                const Step& step = directions[static_cast<std::size_t>(k)];
                if (!isWithin(size, x + step.x, y + step.y)) continue;
                const double length = step.x != 0 && step.y != 0 ? 0.707 : 1;
                const double d = squaredDifference(guide, x, y, x + step.x, y + step.y);
                grid.join(y * size.width + x, k, (y + step.y) * size.width + x + step.x,
                          static_cast<int>(std::lround(cutCostScale * pull * length * std::exp(-beta * d))));
            }
        }
    }
    return grid;
}

void cutAlongEdges(GridCut grid, const image::Plane<Sure>& sure, const image::Plane<float>& inside, Sides& sides) {
    const base::Size size = sides.size();
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const Sure known = sure.row(y)[x];
            const auto cost = static_cast<int>(std::lround(double{inside.row(y)[x]} * cutCostScale));
            const int node = y * size.width + x;
            if (known == Sure::inside) grid.addCost(node, 0, certain);
            if (known == Sure::outside) grid.addCost(node, certain, 0);
            if (known == Sure::no) grid.addCost(node, std::max(0, -cost), std::max(0, cost));
        }
    }
    grid.solve();
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x)
            sides.row(y)[x] = grid.isInside(y * size.width + x) ? Side::inside : Side::outside;
    }
}

}  // namespace dimhem::edge
