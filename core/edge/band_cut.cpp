#include "core/edge/band_cut.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/edge/grid_cut.h"
#include "core/edge/guided_filter.h"
#include "core/kernel/box_sum.h"

namespace dimhem::edge {

namespace {

constexpr double costScale = 256;  // costs are whole numbers
constexpr double mostLikely = 8;   // of a log likelihood ratio
constexpr double leastVariance = 1e-4;
constexpr float fewestSamples = 4;

template <class F>
image::Plane<float> made(base::Size size, F f) {
    image::Plane<float> out(size);
    for (int y = 0; y < size.height; ++y) {
        float* row = out.row(y).data();
        for (int x = 0; x < size.width; ++x) row[x] = f(x, y);
    }
    return out;
}

// Count, sums and sums of squares of the colours of one side beyond the band, over windows.
struct SideSums {
    image::Plane<float> count, sum[3], square[3];
};

SideSums sumsOf(const Guide& guide, const Sides& sides, const image::Plane<float>& distance, Side side, float beyond,
                int window) {
    const auto counts = [&](int x, int y) { return sides.row(y)[x] == side && distance.row(y)[x] > beyond; };
    const image::Plane<float>* channels[3] = {&guide.l, &guide.a, &guide.b};
    SideSums out;
    out.count =
        kernel::boxSum(made(sides.size(), [&](int x, int y) { return counts(x, y) ? 1.0f : 0.0f; }), window);
    for (int c = 0; c < 3; ++c) {
        const auto value = [&](int x, int y) { return counts(x, y) ? channels[c]->row(y)[x] : 0.0f; };
        out.sum[c] = kernel::boxSum(made(sides.size(), value), window);
        out.square[c] = kernel::boxSum(
            made(sides.size(), [&](int x, int y) { const float v = value(x, y); return v * v; }), window);
    }
    return out;
}

// The log likelihood of a colour among those of the side about the place.
double logLikelihood(const SideSums& side, const float colour[3], int x, int y, double noise) {
    const float n = side.count.row(y)[x];
    double log = 0;
    for (int c = 0; c < 3; ++c) {
        const double mean = double{side.sum[c].row(y)[x]} / double{n};
        const double variance = std::max(0.0, double{side.square[c].row(y)[x]} / double{n} - mean * mean) +
                                leastVariance + noise * noise;
        const double off = double{colour[c]} - mean;
        log -= off * off / (2 * variance) + 0.5 * std::log(variance);
    }
    return log;
}

double squaredDifference(const Guide& guide, int x0, int y0, int x1, int y1) {
    const double l = double{guide.l.row(y0)[x0]} - double{guide.l.row(y1)[x1]},
                 a = double{guide.a.row(y0)[x0]} - double{guide.a.row(y1)[x1]},
                 b = double{guide.b.row(y0)[x0]} - double{guide.b.row(y1)[x1]};
    return l * l + a * a + b * b;
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

bool isWithin(base::Size size, int x, int y) {
    return x >= 0 && y >= 0 && x < size.width && y < size.height;
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

void addLikelihoods(GridCut& cut, const Band& band, const Guide& guide, const Sides& sides,
                    const image::Plane<float>& distance, double bandPx, double noise) {
    const int window = static_cast<int>(std::lround(2 * bandPx + 6));
    const auto beyond = static_cast<float>(bandPx);
    const SideSums inside = sumsOf(guide, sides, distance, Side::inside, beyond, window);
    const SideSums outside = sumsOf(guide, sides, distance, Side::outside, beyond, window);
    for (std::size_t i = 0; i < band.places.size(); ++i) {
        const int x = band.places[i].width, y = band.places[i].height;
        if (inside.count.row(y)[x] < fewestSamples || outside.count.row(y)[x] < fewestSamples) continue;
        const float colour[3] = {guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]};
        const double ratio = std::clamp(logLikelihood(inside, colour, x, y, noise) -
                                            logLikelihood(outside, colour, x, y, noise),
                                        -mostLikely, mostLikely);
        const int cost = static_cast<int>(std::lround(std::abs(ratio) * costScale));
        cut.addCost(static_cast<int>(i), ratio < 0 ? cost : 0, ratio > 0 ? cost : 0);
    }
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

Sides sidesOf(const image::Plane<float>& mask) {
    Sides sides(mask.size());
    for (int y = 0; y < mask.size().height; ++y) {
        std::transform(mask.row(y).begin(), mask.row(y).end(), sides.row(y).begin(), [](float v) {
            return v < 0 ? Side::unknown : v > 0.5f ? Side::inside : Side::outside;
        });
    }
    return sides;
}

// Two passes of a chamfer, which is within 8 % of the Euclidean distance.
image::Plane<float> distanceToEdge(const Sides& sides, double limit) {
    const base::Size size = sides.size();
    const auto far = static_cast<float>(limit + 2);
    image::Plane<float> distance(size);
    const auto differs = [&](Side side, int x, int y) {
        return isWithin(size, x, y) && sides.row(y)[x] != Side::unknown && sides.row(y)[x] != side;
    };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const Side side = sides.row(y)[x];
            const bool edge = side != Side::unknown && (differs(side, x - 1, y) || differs(side, x + 1, y) ||
                                                        differs(side, x, y - 1) || differs(side, x, y + 1));
            distance.row(y)[x] = edge ? 0.5f : far;
        }
    }
    const auto pass = [&](int x, int y, int first, int last) {
        float& here = distance.row(y)[x];
        for (int k = first; k < last; ++k) {
            const Step& step = directions[static_cast<std::size_t>(k)];
            if (!isWithin(size, x + step.x, y + step.y)) continue;
            const float length = step.x != 0 && step.y != 0 ? 1.37f : 1.0f;
            here = std::min(here, distance.row(y + step.y)[x + step.x] + length);
        }
    };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) pass(x, y, 0, 4);
    }
    for (int y = size.height - 1; y >= 0; --y) {
        for (int x = size.width - 1; x >= 0; --x) pass(x, y, 4, 8);
    }
    return distance;
}

void cutBand(const Guide& guide, double bandPx, double noise, Sides& sides) {
    const image::Plane<float> distance = distanceToEdge(sides, bandPx);
    const Band band = bandOf(sides, distance, static_cast<float>(bandPx));
    if (band.places.empty()) return;
    GridCut cut(static_cast<int>(band.places.size()));
    addLikelihoods(cut, band, guide, sides, distance, bandPx, noise);
    joinNeighbours(cut, band, guide, sides);
    cut.solve();
    for (std::size_t i = 0; i < band.places.size(); ++i) {
        sides.row(band.places[i].height)[band.places[i].width] =
            cut.isInside(static_cast<int>(i)) ? Side::inside : Side::outside;
    }
}

void fillUnknown(Sides& sides) {
    const base::Size size = sides.size();
    const auto take = [&](int x, int y, std::size_t first, std::size_t last) {
        Side& here = sides.row(y)[x];
        for (std::size_t k = first; k < last && here == Side::unknown; ++k) {
            if (isWithin(size, x + directions[k].x, y + directions[k].y))
                here = sides.row(y + directions[k].y)[x + directions[k].x];
        }
    };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) take(x, y, 0, 4);
    }
    for (int y = size.height - 1; y >= 0; --y) {
        for (int x = size.width - 1; x >= 0; --x) take(x, y, 4, 8);
    }
}

image::Plane<float> matteOf(const Guide& guide, const Sides& sides, double softPx) {
    const int radius = std::max(4, static_cast<int>(std::lround(softPx)));
    image::Plane<float> hard =
        made(sides.size(), [&](int x, int y) { return sides.row(y)[x] == Side::inside ? 1.0f : 0.0f; });
    image::Plane<float> matte = guided(guide, hard, radius, 1e-4);
    const image::Plane<float> distance = distanceToEdge(sides, 2 * radius + 2);
    for (int y = 0; y < matte.size().height; ++y) {
        for (int x = 0; x < matte.size().width; ++x) {
            float& v = matte.row(y)[x];
            const bool far = distance.row(y)[x] > static_cast<float>(2 * radius);
            v = far ? hard.row(y)[x] : std::clamp(v, 0.0f, 1.0f);
        }
    }
    return matte;
}

}  // namespace dimhem::edge
