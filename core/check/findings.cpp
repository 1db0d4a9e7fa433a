#include <algorithm>
#include <cmath>

#include "core/check/contours.h"
#include "core/check/hem.h"
#include "core/edge/sides.h"
#include "core/kernel/components.h"

namespace dimhem::check {

namespace {

constexpr int leastSpotPx = 6;              // pixels; smaller ones are noise of the mask
constexpr double largestSpotShare = 0.004;  // of the photo; larger ones were meant
constexpr int ringPx = 8;                   // what is about a spot
constexpr double unlike = 2.2, unlikeSpread = 4, leastVariance = 2e-4;
constexpr float crowdedFrom = 0.07f;

template <class Is>
image::Plane<std::uint8_t> onesWhere(base::Size size, Is is) {
    image::Plane<std::uint8_t> ones(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) ones.row(y)[x] = is(x, y) ? 1 : 0;
    }
    return ones;
}

struct Moments {
    double n = 0, sum[3] = {}, square[3] = {};
    void add(const edge::Guide& guide, int x, int y) {
        const float colour[3] = {guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]};
        ++n;
        for (int c = 0; c < 3; ++c) {
            sum[c] += double{colour[c]};
            square[c] += double{colour[c]} * double{colour[c]};
        }
    }
    double mean(int c) const { return sum[c] / n; }
    double variance(int c) const { return std::max(0.0, square[c] / n - mean(c) * mean(c)); }
};

// Whether a spot looks like the ring about it: then the mask's maker overlooked it.
bool looksLikeItsRing(const std::function<edge::Guide(const base::Rect&)>& guideOf,
                      const image::Plane<std::int32_t>& labels, std::int32_t label, const base::Rect& bounds) {
    Moments spot, ring;
    const base::Rect wide = base::intersected(
        {bounds.x0 - ringPx, bounds.y0 - ringPx, bounds.x1 + ringPx, bounds.y1 + ringPx}, base::rectOf(labels.size()));
    const edge::Guide guide = guideOf(wide);
    for (int y = wide.y0; y < wide.y1; ++y) {
        for (int x = wide.x0; x < wide.x1; ++x) {
            if (labels.row(y)[x] == label) spot.add(guide, x - wide.x0, y - wide.y0);
            if (labels.row(y)[x] == 0) ring.add(guide, x - wide.x0, y - wide.y0);
        }
    }
    if (ring.n < 4) return false;
    double off = 0, spotSpread = 0, ringSpread = 0;
    for (int c = 0; c < 3; ++c) {
        const double d = spot.mean(c) - ring.mean(c);
        off += d * d / (ring.variance(c) + leastVariance);
        spotSpread += spot.variance(c) + leastVariance;
        ringSpread += ring.variance(c) + leastVariance;
    }
    return off < unlike && spotSpread < unlikeSpread * ringSpread;
}

// Round a spot and its rim, where the mask is between full and none.
std::vector<base::Point> outlineRound(const image::Plane<std::int32_t>& labels, std::int32_t label,
                                      const base::Rect& bounds) {
    constexpr int rim = 2;
    const base::Rect wide = base::intersected({bounds.x0 - rim, bounds.y0 - rim, bounds.x1 + rim, bounds.y1 + rim},
                                              base::rectOf(labels.size()));
    return longestOutline(wide, [&](int x, int y) {
        const base::Rect near = base::intersected({x - rim, y - rim, x + rim + 1, y + rim + 1}, wide);
        for (int ny = near.y0; ny < near.y1; ++ny) {
            for (int nx = near.x0; nx < near.x1; ++nx) {
                if (labels.row(ny)[nx] == label) return true;
            }
        }
        return false;
    });
}

// Whether edges crowd about the middle of a spot, as in leaves: there, holes are part of the thing.
bool isCrowded(const image::Plane<float>& mask, const base::Rect& bounds) {
    const int x = (bounds.x0 + bounds.x1) / 2, y = (bounds.y0 + bounds.y1) / 2, reach = crowdWindow;
    const base::Rect window =
        base::intersected({x - reach, y - reach, x + reach + 1, y + reach + 1}, base::rectOf(mask.size()));
    const image::Plane<float> crowd = crowding(image::cropped(mask, window));
    return crowd.row(y - window.y0)[static_cast<std::size_t>(x - window.x0)] > crowdedFrom;
}

}  // namespace

void largestFirst(std::vector<Finding>& findings) {
    std::stable_sort(findings.begin(), findings.end(),
                     [](const Finding& a, const Finding& b) { return a.pixels > b.pixels; });
}

std::vector<Finding> stretches(FindingKind kind, const image::Plane<std::int8_t>& difference, int leastPixels) {
    constexpr int clear = 50;  // of 100
    const int sign = kind == FindingKind::spill ? 1 : -1;
    std::vector<Finding> out;
    image::Plane<std::int32_t> labels(difference.size());
    const auto pieces = kernel::components(
        onesWhere(difference.size(), [&](int x, int y) { return difference.row(y)[x] * sign > clear; }), 8, labels);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (pieces[i].pixels < leastPixels) continue;
        const auto label = static_cast<std::int32_t>(i + 1);
        out.push_back({kind, pieces[i].bounds, static_cast<double>(pieces[i].pixels),
                       longestOutline(pieces[i].bounds, [&](int x, int y) { return labels.row(y)[x] == label; })});
    }
    return out;
}

std::vector<Finding> spots(FindingKind kind, const image::Plane<float>& mask,
                           const std::function<edge::Guide(const base::Rect&)>& guideOf) {
    const base::Size size = mask.size();
    const auto ones = onesWhere(
        size, [&](int x, int y) { return kind == FindingKind::gap ? mask.row(y)[x] < 0.7f : mask.row(y)[x] > 0.3f; });
    image::Plane<std::int32_t> labels(size);
    const auto pieces = kernel::components(ones, 8, labels);
    const double largest = largestSpotShare * size.width * size.height;
    std::vector<Finding> out;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const base::Rect& b = pieces[i].bounds;
        const bool atBorder = b.x0 == 0 || b.y0 == 0 || b.x1 == size.width || b.y1 == size.height;
        if (atBorder || pieces[i].pixels < leastSpotPx || pieces[i].pixels > largest || isCrowded(mask, b)) continue;
        const auto label = static_cast<std::int32_t>(i + 1);
        if (!looksLikeItsRing(guideOf, labels, label, b)) continue;
        out.push_back({kind, b, static_cast<double>(pieces[i].pixels), outlineRound(labels, label, b)});
    }
    return out;
}

}  // namespace dimhem::check
