#include "core/check/hem.h"

#include <algorithm>
#include <cmath>

#include "core/check/contours.h"
#include "core/edge/guided_filter.h"
#include "core/edge/sides.h"
#include "core/edge/snap.h"
#include "core/kernel/box_sum.h"
#include "core/kernel/components.h"

namespace dimhem::check {

namespace {

constexpr double bandPx = 10;
constexpr int crowdWindow = 40;
constexpr float crowdFrom = 0.06f, crowdTo = 0.09f;  // of pixels on the edge: from here less, from there not measured
constexpr float ignoredDifference = 0.2f, gentleGain = 1.3f;  // of the gentle estimate, which also blurs what is right
constexpr double softestPx = 26;  // passage of a mask's edge, per pixel of its length, that can be measured

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

// M - E of one pixel: from the cut where edges are few, from the smoothed mask where they crowd.
float differenceOf(float mask, float cut, float gentle, float crowd) {
    const float weight = std::clamp((crowd - crowdFrom) / (crowdTo - crowdFrom), 0.0f, 1.0f);
    const float off = mask - gentle;
    const float fromGentle = std::abs(off) < ignoredDifference ? 0.0f : off * gentleGain;
    return std::clamp((mask - cut) * (1 - weight) + fromGentle * weight, -1.0f, 1.0f);
}

}  // namespace

image::Plane<float> crowding(const image::Plane<float>& mask) {
    image::Plane<float> on(mask.size());
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) on.row(y)[x] = isOnEdge(mask, x, y) ? 1.0f : 0.0f;
    }
    return kernel::boxMean(on, crowdWindow);
}

HemBlock hemOf(const edge::Guide& guide, const image::Plane<float>& mask, double noise) {
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
    const image::Plane<float> crowd = crowding(mask);
    const image::Plane<float> cut = edge::snapped(guide, mask, bandPx, noise);
    const image::Plane<float> gentle = edge::guided(guide, edge::guided(guide, mask, 8, 1e-4), 5, 1e-4);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const int mx = x + hemMarginPx, my = y + hemMarginPx;
            const float difference =
                differenceOf(mask.row(my)[mx], cut.row(my)[mx], gentle.row(my)[mx], crowd.row(my)[mx]);
            out.difference.row(y)[x] = static_cast<std::int8_t>(std::lround(difference * 100));
            (difference > 0 ? out.spill : out.shortfall) += std::abs(double{difference});
            if (isOnEdge(mask, mx, my) && crowd.row(my)[mx] > (crowdFrom + crowdTo) / 2) ++out.unmeasured;
        }
    }
    return out;
}

}  // namespace dimhem::check
