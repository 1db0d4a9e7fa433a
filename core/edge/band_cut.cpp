#include "core/edge/band_cut.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/edge/grid_cut.h"
#include "core/edge/side_sums.h"
#include "core/kernel/components.h"

namespace dimhem::edge {

namespace {

constexpr double costScale = 256;  // costs are whole numbers
constexpr double mostLikely = 8;   // of a log likelihood ratio
constexpr double leastVariance = 1e-4;
// Log likelihood that a pixel must have against it before it changes sides: where nothing tells the sides apart, the
// mask stays as it is.
constexpr double margin = 1.0, marginUnseen = 1.5;

// The log likelihood of a colour among those of the side about the place.
double logLikelihood(const SideSums& side, const float colour[3], int x, int y, double noise) {
    const float n = side.count.row(y)[x];
    double log = 0;
    for (int c = 0; c < 3; ++c) {
        const double mean = double{side.sum[c].row(y)[x]} / double{n};
        const double variance =
            std::max(0.0, double{side.square[c].row(y)[x]} / double{n} - mean * mean) + leastVariance + noise * noise;
        const double off = double{colour[c]} - mean;
        log -= off * off / (2 * variance) + 0.5 * std::log(variance);
    }
    return log;
}

struct Band {
    image::Plane<std::int32_t> number;  // of the free pixels, from 0; below 0: not free
    std::vector<base::Size> places;
};

Band bandOf(const Sides& sides, const image::Plane<float>& distance, float reach) {
    Band band{image::Plane<std::int32_t>(sides.size()), {}};
    for (int y = 0; y < sides.size().height; ++y) {
        for (int x = 0; x < sides.size().width; ++x) {
            const bool free = sides.row(y)[x] != Side::unknown && distance.row(y)[x] <= reach;
            band.number.row(y)[x] = free ? static_cast<int>(band.places.size()) : -1;
            if (free) band.places.push_back({x, y});
        }
    }
    return band;
}

double meanContrast(const Guide& guide, const Band& band) {
    double sum = 0;
    std::size_t pairs = 0;
    for (const base::Size& p : band.places) {
        for (const Step& step : {directions[4], directions[6]}) {
            if (!isWithin(guide.size(), p.width + step.x, p.height + step.y)) continue;
            sum += squaredDifference(guide, p.width, p.height, p.width + step.x, p.height + step.y);
            ++pairs;
        }
    }
    return sum / std::max<double>(1, static_cast<double>(pairs));
}

// Adds what each free pixel costs on either side, and returns its log likelihood ratio of inside, without the margin.
std::vector<double> addLikelihoods(GridCut& cut, const Band& band, const Guide& guide, const Sides& sides,
                                   const image::Plane<float>& distance, double bandPx, double noise,
                                   const image::Plane<float>* evidence) {
    std::vector<double> ratios(band.places.size());
    const int window = static_cast<int>(std::lround(2 * bandPx + 6));
    const auto beyond = static_cast<float>(bandPx);
    const SideSums inside = sideSums(guide, sides, distance, Side::inside, beyond, window);
    const SideSums outside = sideSums(guide, sides, distance, Side::outside, beyond, window);
    for (std::size_t i = 0; i < band.places.size(); ++i) {
        const int x = band.places[i].width, y = band.places[i].height;
        double ratio = evidence ? double{evidence->row(y)[x]} : 0;
        const bool seen = inside.count.row(y)[x] >= fewestSamples && outside.count.row(y)[x] >= fewestSamples;
        if (seen) {
            const float colour[3] = {guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]};
            ratio +=
                std::clamp(logLikelihood(inside, colour, x, y, noise) - logLikelihood(outside, colour, x, y, noise),
                           -mostLikely, mostLikely);
        }
        ratios[i] = ratio;
        ratio += (sides.row(y)[x] == Side::inside ? 1 : -1) * (seen ? margin : marginUnseen);
        const int cost = static_cast<int>(std::lround(std::abs(ratio) * costScale));
        cut.addCost(static_cast<int>(i), ratio < 0 ? cost : 0, ratio > 0 ? cost : 0);
    }
    return ratios;
}

// Pieces that changed sides though their own pixels hardly say so, as where the cut only took a shorter way, change
// back. `sides` as before the cut.
std::vector<bool> changesOf(const GridCut& cut, const Band& band, const std::vector<double>& ratios,
                            const Sides& sides) {
    image::Plane<std::uint8_t> changed = image::filled(sides.size(), std::uint8_t{0});
    const auto hasChanged = [&](std::size_t i) {
        const base::Size& p = band.places[i];
        return cut.isInside(static_cast<int>(i)) != (sides.row(p.height)[p.width] == Side::inside);
    };
    for (std::size_t i = 0; i < band.places.size(); ++i)
        changed.row(band.places[i].height)[band.places[i].width] = hasChanged(i) ? 1 : 0;
    image::Plane<std::int32_t> labels(sides.size());
    const auto pieces = kernel::components(changed, 8, labels);
    std::vector<double> support(pieces.size(), 0);
    const auto pieceOf = [&](std::size_t i) {
        return static_cast<std::size_t>(labels.row(band.places[i].height)[band.places[i].width] - 1);
    };
    for (std::size_t i = 0; i < band.places.size(); ++i) {
        if (hasChanged(i)) support[pieceOf(i)] += cut.isInside(static_cast<int>(i)) ? ratios[i] : -ratios[i];
    }
    std::vector<bool> changes(band.places.size());
    for (std::size_t i = 0; i < band.places.size(); ++i)
        changes[i] = hasChanged(i) && support[pieceOf(i)] > margin * static_cast<double>(pieces[pieceOf(i)].pixels);
    return changes;
}

// Free neighbours are joined; a neighbour that is not free holds the pixel to its own side.
void joinNeighbours(GridCut& cut, const Band& band, const Guide& guide, const Sides& sides) {
    constexpr double pull = 3;
    const double beta = 1 / (2 * std::max(1e-7, meanContrast(guide, band)));
    for (std::size_t i = 0; i < band.places.size(); ++i) {
        const base::Size& p = band.places[i];
        for (int k = 0; k < 8; ++k) {
            const Step& step = directions[static_cast<std::size_t>(k)];
            const int x = p.width + step.x, y = p.height + step.y;
            if (!isWithin(guide.size(), x, y) || sides.row(y)[x] == Side::unknown) continue;
            const int other = band.number.row(y)[x];
            if (other >= 0 && k < 4) continue;  // joined from the other end
            const double length = step.x != 0 && step.y != 0 ? 0.707 : 1;
            const double difference = squaredDifference(guide, p.width, p.height, x, y);
            const int weight = static_cast<int>(std::lround(costScale * pull * length * std::exp(-beta * difference)));
            if (other >= 0) {
                cut.join(static_cast<int>(i), k, other, weight);
            } else {
                const bool inside = sides.row(y)[x] == Side::inside;
                cut.addCost(static_cast<int>(i), inside ? 0 : weight, inside ? weight : 0);
            }
        }
    }
}

}  // namespace

void cutBand(const Guide& guide, double bandPx, double noise, Sides& sides, const image::Plane<float>* evidence) {
    const image::Plane<float> distance = distanceToEdge(sides, bandPx);
    const Band band = bandOf(sides, distance, static_cast<float>(bandPx));
    if (band.places.empty()) return;
    GridCut cut(static_cast<int>(band.places.size()));
    const std::vector<double> ratios = addLikelihoods(cut, band, guide, sides, distance, bandPx, noise, evidence);
    joinNeighbours(cut, band, guide, sides);
    cut.solve();
    const std::vector<bool> changes = changesOf(cut, band, ratios, sides);
    for (std::size_t i = 0; i < band.places.size(); ++i) {
        Side& side = sides.row(band.places[i].height)[band.places[i].width];
        if (changes[i]) side = side == Side::inside ? Side::outside : Side::inside;
    }
}

}  // namespace dimhem::edge
