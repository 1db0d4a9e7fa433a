#include "core/check/hem.h"

#include <algorithm>
#include <cmath>

#include "core/check/contours.h"
#include "core/check/solved_belief.h"
#include "core/edge/sides.h"
#include "core/edge/snap.h"
#include "core/kernel/box_sum.h"
#include "core/kernel/components.h"

namespace dimhem::check {

namespace {

constexpr double bandPx = 10;
constexpr float crowdFrom = 0.06f, crowdTo = 0.09f;  // of pixels on the edge: from here less, from there not measured
constexpr int thickPx = 4, thickWindow = 14;  // a side none of which is that far from the edge, so near by, is thin
constexpr double softestPx = 26;              // passage of a mask's edge, per pixel of its length, that can be measured

bool isOnEdge(const image::Plane<float>& mask, int x, int y) {
    const bool inside = mask.row(y)[x] > 0.5f;
    return (x > 0 && (mask.row(y)[x - 1] > 0.5f) != inside) || (y > 0 && (mask.row(y - 1)[x] > 0.5f) != inside);
}

// How much of the passage from full to none there is about each pixel of the edge.
bool isTooSoft(const image::Plane<float>& mask, double edge) {
    double partial = 0;
    for (int y = 0; y < mask.size().height; ++y) {
        for (const float v : mask.row(y)) partial += v > 0.1f && v < 0.9f ? 1 : 0;
    }
    return partial > softestPx * edge;
}

double edgePixels(const image::Plane<float>& mask, int margin) {
    double count = 0;
    for (int y = margin; y < mask.size().height - margin; ++y) {
        for (int x = margin; x < mask.size().width - margin; ++x) count += isOnEdge(mask, x, y) ? 1 : 0;
    }
    return count;
}

// Whether each pixel has nothing thick of one side near it: a stay, a strand, a slit. The colours of such a side cannot
// be learnt, and the cut would do away with it.
image::Plane<float> thinness(const image::Plane<float>& mask) {
    const edge::Sides sides = edge::sidesOf(mask);
    const image::Plane<float> distance = edge::distanceToEdge(sides, thickPx + 1);
    const auto near = [&](edge::Side side) {
        image::Plane<float> thick(mask.size());
        for (int y = 0; y < mask.size().height; ++y) {
            for (int x = 0; x < mask.size().width; ++x)
                thick.row(y)[x] = sides.row(y)[x] == side && distance.row(y)[x] > float{thickPx} ? 1.0f : 0.0f;
        }
        return kernel::boxSum(thick, thickWindow);
    };
    image::Plane<float> inside = near(edge::Side::inside);
    const image::Plane<float> outside = near(edge::Side::outside);
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x)
            inside.row(y)[x] = inside.row(y)[x] > 0 && outside.row(y)[x] > 0 ? 0.0f : 1.0f;
    }
    return inside;
}

// M - E of one pixel: from the cut where edges are few, from what was solved where they crowd or things are thin.
float differenceOf(float mask, float cut, float solved, float weight) {
    return std::clamp((mask - cut) * (1 - weight) + (mask - solved) * weight, -1.0f, 1.0f);
}

float crowded(float share) {
    return std::clamp((share - crowdFrom) / (crowdTo - crowdFrom), 0.0f, 1.0f);
}

// How little the cut can be trusted about each pixel, 0..1: edges crowd, or there is nothing thick near an edge.
image::Plane<float> hardness(const image::Plane<float>& mask) {
    image::Plane<float> hard = thinness(mask);
    const image::Plane<float> crowd = crowding(mask),
                              distance = edge::distanceToEdge(edge::sidesOf(mask), thickWindow + 1);
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) {
            const float thin = distance.row(y)[x] <= float{thickWindow} ? hard.row(y)[x] : 0.0f;
            hard.row(y)[x] = std::max(thin, crowded(crowd.row(y)[x]));
        }
    }
    return hard;
}

}  // namespace

image::Plane<float> crowding(const image::Plane<float>& mask) {
    image::Plane<float> on(mask.size());
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) on.row(y)[x] = isOnEdge(mask, x, y) ? 1.0f : 0.0f;
    }
    return kernel::boxMean(on, crowdWindow);
}

HemBlock hemOf(const edge::Guide& guide, const image::Plane<float>& mask, const image::Plane<float>& solved,
               double noise) {
    const base::Size size{mask.size().width - 2 * hemMarginPx, mask.size().height - 2 * hemMarginPx};
    HemBlock out;
    out.difference = image::Plane<std::int8_t>(size);
    for (int y = 0; y < size.height; ++y) std::fill_n(out.difference.row(y).data(), size.width, std::int8_t{0});
    const double allEdge = edgePixels(mask, 1);
    if (allEdge == 0) return out;
    out.edge = edgePixels(mask, hemMarginPx);
    if (isTooSoft(mask, allEdge)) {
        out.unmeasured = out.edge;
        return out;
    }
    const image::Plane<float> hard = hardness(mask), crowdSolved = crowding(solved);
    const SolvedBelief belief = beliefIn(guide, mask, solved);
    const image::Plane<float> cut = edge::snapped(guide, mask, bandPx, noise);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const int mx = x + hemMarginPx, my = y + hemMarginPx;
            const float m = mask.row(my)[mx], difficult = hard.row(my)[mx], sure = belief.overMask.row(my)[mx];
            const float instead =
                std::max(belief.softPassage.row(my)[mx], crowded(crowdSolved.row(my)[mx]) * belief.overCut.row(my)[mx]);
            const float matte = m + (solved.row(my)[mx] - m) * (difficult * sure + (1 - difficult) * instead);
            const float difference = differenceOf(m, cut.row(my)[mx], matte, std::max(difficult, instead));
            out.difference.row(y)[x] = static_cast<std::int8_t>(std::lround(difference * 100));
            (difference > 0 ? out.spill : out.shortfall) += std::abs(double{difference});
            if (isOnEdge(mask, mx, my) && difficult > 0.5f && belief.differs.row(my)[mx] > 0 && sure < 0.5f)
                ++out.unmeasured;
        }
    }
    return out;
}

}  // namespace dimhem::check
