#include "core/edge/local_colours.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/edge/local_colours.cpp"

#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <hwy/contrib/math/math-inl.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#ifndef DIMHEM_LOCAL_COLOURS
#define DIMHEM_LOCAL_COLOURS
namespace dimhem::edge {

struct ColourCluster {
    float r, g, b, variance, weight;
};

struct BlockColours {
    std::vector<ColourCluster> thing, ground;
    float mixedShare, noisePerLight;
};

struct PixelRow {
    const float *r, *g, *b;
    float *alpha, *trust;
};

}  // namespace dimhem::edge
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::edge {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// The sums over hypotheses, as far as they have come.
template <class V>
struct Sums {
    V all, alpha, square, spread, nearest, nearestAlpha;
};

template <class D, class V = hn::Vec<D>>
HWY_INLINE void AddAll(D d, const ColourCluster& cluster, float prior, float alpha, V r, V g, V b, V noise,
                       Sums<V>& sums) {
    const V dr = hn::Sub(r, hn::Set(d, cluster.r)), dg = hn::Sub(g, hn::Set(d, cluster.g)),
            db = hn::Sub(b, hn::Set(d, cluster.b));
    const V square = hn::MulAdd(dr, dr, hn::MulAdd(dg, dg, hn::Mul(db, db)));
    const V inverse = hn::Div(hn::Set(d, 1.0f), hn::Add(noise, hn::Set(d, cluster.variance)));
    const V relative = hn::Mul(square, inverse);
    // (2 pi v)^(-3/2)
    const V height = hn::Mul(hn::Set(d, 0.0634936f), hn::Mul(inverse, hn::Sqrt(inverse)));
    const V p = hn::Mul(hn::Set(d, prior * cluster.weight),
                        hn::Mul(height, hn::Exp(d, hn::Max(hn::Mul(relative, hn::Set(d, -0.5f)), hn::Set(d, -80.0f)))));
    sums.all = hn::Add(sums.all, p);
    if (alpha > 0) {
        sums.alpha = hn::Add(sums.alpha, p);
        sums.square = hn::Add(sums.square, p);
    }
    const auto closer = hn::Lt(relative, sums.nearest);
    sums.nearest = hn::IfThenElse(closer, relative, sums.nearest);
    sums.nearestAlpha = hn::IfThenElse(closer, hn::Set(d, alpha), sums.nearestAlpha);
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE void AddMixed(D d, const ColourCluster& f, const ColourCluster& g0, float share, V r, V g, V b, V noise,
                         Sums<V>& sums) {
    const float lr = f.r - g0.r, lg = f.g - g0.g, lb = f.b - g0.b, length2 = lr * lr + lg * lg + lb * lb;
    if (!(length2 > 1e-8f)) return;
    const V dr = hn::Sub(r, hn::Set(d, g0.r)), dg = hn::Sub(g, hn::Set(d, g0.g)), db = hn::Sub(b, hn::Set(d, g0.b));
    const V along =
        hn::Mul(hn::Set(d, 1 / length2),
                hn::MulAdd(dr, hn::Set(d, lr), hn::MulAdd(dg, hn::Set(d, lg), hn::Mul(db, hn::Set(d, lb)))));
    const auto between = hn::And(hn::Gt(along, hn::Zero(d)), hn::Lt(along, hn::Set(d, 1.0f)));
    if (hn::AllFalse(d, between)) return;
    const V er = hn::NegMulAdd(along, hn::Set(d, lr), dr), eg = hn::NegMulAdd(along, hn::Set(d, lg), dg),
            eb = hn::NegMulAdd(along, hn::Set(d, lb), db);
    const V square = hn::MulAdd(er, er, hn::MulAdd(eg, eg, hn::Mul(eb, eb)));
    const V rest = hn::Sub(hn::Set(d, 1.0f), along);
    const V variance = hn::Add(noise, hn::MulAdd(hn::Mul(along, along), hn::Set(d, f.variance),
                                                 hn::Mul(hn::Mul(rest, rest), hn::Set(d, g0.variance))));
    const V inverse = hn::Div(hn::Set(d, 1.0f), variance), relative = hn::Mul(square, inverse);
    // 1 / (2 pi V |F - B|)
    const float scale = share * f.weight * g0.weight * 0.1591549f / std::sqrt(length2);
    const V p = hn::IfThenElseZero(
        between,
        hn::Mul(hn::Set(d, scale),
                hn::Mul(inverse, hn::Exp(d, hn::Max(hn::Mul(relative, hn::Set(d, -0.5f)), hn::Set(d, -80.0f))))));
    sums.all = hn::Add(sums.all, p);
    const V weighed = hn::Mul(p, along);
    sums.alpha = hn::Add(sums.alpha, weighed);
    sums.square = hn::MulAdd(weighed, along, sums.square);
    sums.spread = hn::MulAdd(p, hn::Min(hn::Set(d, 0.08f), hn::Mul(variance, hn::Set(d, 1 / length2))), sums.spread);
    const auto closer = hn::And(between, hn::Lt(relative, sums.nearest));
    sums.nearest = hn::IfThenElse(closer, relative, sums.nearest);
    sums.nearestAlpha = hn::IfThenElse(closer, along, sums.nearestAlpha);
}

void PosteriorRow(const BlockColours& colours, const PixelRow& row, std::size_t count) {
    const hn::ScalableTag<float> d;
    const std::size_t lanes = hn::Lanes(d);
    using V = hn::Vec<decltype(d)>;
    const float pure = (1 - colours.mixedShare) / 2;
    for (std::size_t i = 0; i < count; i += lanes) {  // rows are padded to whole vectors
        const V r = hn::LoadU(d, row.r + i), g = hn::LoadU(d, row.g + i), b = hn::LoadU(d, row.b + i);
        const V light = hn::Max(hn::Zero(d), hn::Mul(hn::Set(d, 1.0f / 3), hn::Add(r, hn::Add(g, b))));
        const V noise = hn::MulAdd(hn::Set(d, colours.noisePerLight), light, hn::Set(d, 4e-6f));
        Sums<V> sums{hn::Zero(d), hn::Zero(d), hn::Zero(d), hn::Zero(d), hn::Set(d, 1e30f), hn::Set(d, 0.5f)};
        for (const ColourCluster& f : colours.thing) AddAll(d, f, pure, 1, r, g, b, noise, sums);
        for (const ColourCluster& g0 : colours.ground) AddAll(d, g0, pure, 0, r, g, b, noise, sums);
        for (const ColourCluster& f : colours.thing) {
            for (const ColourCluster& g0 : colours.ground) AddMixed(d, f, g0, colours.mixedShare, r, g, b, noise, sums);
        }
        const V all = hn::Max(sums.all, hn::Set(d, 1e-25f));
        const V alpha = hn::Div(sums.alpha, all);
        const V spread =
            hn::Max(hn::Zero(d), hn::Sub(hn::Div(hn::Add(sums.square, sums.spread), all), hn::Mul(alpha, alpha)));
        const V trust = hn::Div(hn::Set(d, 0.01f), hn::Add(hn::Set(d, 0.01f), spread));
        const auto nothing = hn::Lt(sums.all, hn::Set(d, 1e-20f));
        hn::StoreU(hn::IfThenElse(nothing, sums.nearestAlpha, alpha), d, row.alpha + i);
        hn::StoreU(hn::IfThenElse(nothing, hn::Set(d, 0.02f), trust), d, row.trust + i);
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::edge
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::edge {

HWY_EXPORT(PosteriorRow);

namespace {

using image::Plane;

constexpr int blockPx = 32;
constexpr std::size_t fewestSamples = 150, mostClusters = 12;

struct Sample {
    std::array<float, 3> colour;
};

// A cluster while it is split: its samples, and along which direction, and how much, they vary most.
struct Splitting {
    std::vector<Sample> samples;
    std::array<double, 3> mean{}, axis{};
    double largest = 0, variance = 0;
};

Splitting measured(std::vector<Sample> samples) {
    Splitting out;
    const double n = static_cast<double>(samples.size());
    std::array<double, 6> sum{};  // rr rg rb gg gb bb
    for (const Sample& s : samples) {
        for (std::size_t c = 0; c < 3; ++c) out.mean[c] += double{s.colour[c]} / n;
    }
    for (const Sample& s : samples) {
        const double r = double{s.colour[0]} - out.mean[0], g = double{s.colour[1]} - out.mean[1],
                     b = double{s.colour[2]} - out.mean[2];
        const double parts[] = {r * r, r * g, r * b, g * g, g * b, b * b};
        for (std::size_t k = 0; k < 6; ++k) sum[k] += parts[k] / n;
    }
    out.variance = (sum[0] + sum[3] + sum[5]) / 3;
    // The largest eigenvector by powers of the matrix.
    std::array<double, 3> v{0.577, 0.578, 0.577};
    for (int round = 0; round < 24; ++round) {
        const std::array<double, 3> w{sum[0] * v[0] + sum[1] * v[1] + sum[2] * v[2],
                                      sum[1] * v[0] + sum[3] * v[1] + sum[4] * v[2],
                                      sum[2] * v[0] + sum[4] * v[1] + sum[5] * v[2]};
        const double length = std::sqrt(w[0] * w[0] + w[1] * w[1] + w[2] * w[2]);
        if (!(length > 1e-20)) break;
        v = {w[0] / length, w[1] / length, w[2] / length};
        out.largest = length * n;
    }
    out.axis = v;
    out.samples = std::move(samples);
    return out;
}

std::vector<ColourCluster> clustersOf(std::vector<Sample> samples) {
    std::vector<Splitting> clusters;
    const double all = static_cast<double>(samples.size());
    if (samples.empty()) return {};
    clusters.push_back(measured(std::move(samples)));
    while (clusters.size() < mostClusters) {
        const auto widest = std::ranges::max_element(clusters, {}, &Splitting::largest);
        constexpr double hardly = 1e-5;
        if (widest->largest < hardly * static_cast<double>(widest->samples.size())) break;
        std::vector<Sample> low, high;
        for (const Sample& s : widest->samples) {
            double along = 0;
            for (std::size_t c = 0; c < 3; ++c) along += widest->axis[c] * (double{s.colour[c]} - widest->mean[c]);
            (along < 0 ? low : high).push_back(s);
        }
        if (low.empty() || high.empty()) break;
        *widest = measured(std::move(low));
        clusters.push_back(measured(std::move(high)));
    }
    std::vector<ColourCluster> out;
    for (const Splitting& c : clusters)
        out.push_back({static_cast<float>(c.mean[0]), static_cast<float>(c.mean[1]), static_cast<float>(c.mean[2]),
                       static_cast<float>(c.variance),
                       static_cast<float>(static_cast<double>(c.samples.size()) / all)});
    return out;
}

class Sampling {
public:
    Sampling(const image::LinearPlanes& picture, int originX, int originY, const Plane<Known>& samples)
        : picture_(picture), originX_(originX), originY_(originY), samples_(samples) {}

    std::vector<ColourCluster> clusters(const base::Rect& block, Known side, int reachPx) const {
        constexpr int mostReach = 1024;
        std::vector<Sample> found;
        for (int reach = reachPx; reach <= mostReach; reach *= 2) {
            found = about(block, side, reach);
            const bool sawAll = reach > std::max(picture_.size().width, picture_.size().height);
            if (found.size() >= fewestSamples || sawAll) break;
        }
        return clustersOf(std::move(found));
    }

private:
    // On a lattice of the picture, so that the same block finds the same samples whatever area is looked at.
    std::vector<Sample> about(const base::Rect& block, Known side, int reach) const {
        const int step = std::max(1, reach / 16);
        const base::Rect window = base::intersected(base::grown(block, reach), base::rectOf(picture_.size()));
        const auto firstOn = [&](int v, int origin) {
            const int place = v + origin, past = ((place % step) + step) % step;
            return past == 0 ? v : v + step - past;
        };
        std::vector<Sample> out;
        for (int y = firstOn(window.y0, originY_); y < window.y1; y += step) {
            for (int x = firstOn(window.x0, originX_); x < window.x1; x += step) {
                if (samples_.view().at(x, y) != side) continue;
                out.push_back(
                    {{picture_.red.view().at(x, y), picture_.green.view().at(x, y), picture_.blue.view().at(x, y)}});
            }
        }
        return out;
    }

    const image::LinearPlanes& picture_;
    int originX_, originY_;
    const Plane<Known>& samples_;
};

constexpr double fixedNoisePerLight = 2e-4;

double noisePerLight(double encoded) {
    return 4.84 * encoded * encoded;
}

// The samples' own noise is in the clusters' variances; a pixel brings its own.
std::vector<ColourCluster> withoutNoise(std::vector<ColourCluster> clusters, double noise) {
    constexpr float least = 1e-6f;
    for (ColourCluster& c : clusters) {
        const float light = std::max(0.0f, (c.r + c.g + c.b) / 3);
        c.variance = std::max(least, c.variance - static_cast<float>(noisePerLight(noise)) * light);
    }
    return clusters;
}

// The unknown pixels of a block, gathered, told and put back.
void tellBlock(const image::LinearPlanes& picture, const base::Rect& block, const Plane<Known>& known,
               const BlockColours& colours, Likely& out) {
    constexpr std::size_t room = static_cast<std::size_t>(blockPx) * blockPx + 64;
    std::array<std::vector<float>, 5> rows;
    for (auto& row : rows) row.assign(room, 0);
    std::vector<std::pair<int, int>> places;
    for (int y = block.y0; y < block.y1; ++y) {
        for (int x = block.x0; x < block.x1; ++x) {
            if (known.view().at(x, y) != Known::unknown) continue;
            rows[0][places.size()] = picture.red.view().at(x, y);
            rows[1][places.size()] = picture.green.view().at(x, y);
            rows[2][places.size()] = picture.blue.view().at(x, y);
            places.emplace_back(x, y);
        }
    }
    HWY_DYNAMIC_DISPATCH(PosteriorRow)
    (colours, {rows[0].data(), rows[1].data(), rows[2].data(), rows[3].data(), rows[4].data()}, places.size());
    for (std::size_t i = 0; i < places.size(); ++i) {
        out.alpha.view().at(places[i].first, places[i].second) = rows[3][i];
        out.trust.view().at(places[i].first, places[i].second) = rows[4][i];
    }
}

}  // namespace

Likely alphaByColours(const image::LinearPlanes& picture, base::Point at, const Plane<Known>& known,
                      const Plane<Known>& samples, const LocalColourSettings& settings) {
    const base::Size size = picture.size();
    const int originX = static_cast<int>(at.x), originY = static_cast<int>(at.y);
    Likely out{Plane<float>(size), Plane<float>(size)};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            out.alpha.view().at(x, y) = known.view().at(x, y) == Known::thing ? 1.0f : 0.0f;
            out.trust.view().at(x, y) = 1;
        }
    }
    const Sampling sampling(picture, originX, originY, samples);
    const int firstY = base::floorDiv(originY, blockPx) * blockPx - originY,
              firstX = base::floorDiv(originX, blockPx) * blockPx - originX;
    for (int by = firstY; by < size.height; by += blockPx) {
        for (int bx = firstX; bx < size.width; bx += blockPx) {
            const base::Rect block = base::intersected({bx, by, bx + blockPx, by + blockPx}, base::rectOf(size));
            bool any = false;
            for (int y = block.y0; y < block.y1 && !any; ++y) {
                for (int x = block.x0; x < block.x1 && !any; ++x) any = known.view().at(x, y) == Known::unknown;
            }
            if (!any) continue;
            const BlockColours colours{
                withoutNoise(sampling.clusters(block, Known::thing, settings.reachPx), settings.noise),
                withoutNoise(sampling.clusters(block, Known::ground, settings.reachPx), settings.noise),
                static_cast<float>(settings.mixedShare),
                static_cast<float>(fixedNoisePerLight + noisePerLight(settings.noise))};
            tellBlock(picture, block, known, colours, out);
        }
    }
    return out;
}

}  // namespace dimhem::edge
#endif
