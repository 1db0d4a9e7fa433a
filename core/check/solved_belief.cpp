#include "core/check/solved_belief.h"

#include <algorithm>
#include <cmath>

#include "core/kernel/box_sum.h"

namespace dimhem::check {

namespace {

constexpr int alignmentWindow = 20, nearWindow = 6, explainedWindow = 12;  // pixels to either side
constexpr float leastDifference = 0.1f, fewPixels = 3;                     // that count as different
constexpr float fullCoverage = 0.04f, mostly = 0.8f;  // partly covered: so far from 0 and 1; of what differs
// Of the alignments of what was solved and of the mask: from where the one is believed, and where wholly.
constexpr float overMaskFrom = 1.0f, overMaskAll = 1.1f, overCutFrom = 1.3f, overCutAll = 1.6f;
constexpr float explainedFrom = 0.8f, explainedAll = 0.95f;  // share of the photo's variance that a passage explains

float ramp(float v, float from, float all) {
    return std::clamp((v - from) / (all - from), 0.0f, 1.0f);
}

// How well a mask's edge lies along the photo's about each place: the photo's gradient along that of the mask, over the
// length of the latter. What there is in the photo counts the same for any mask.
image::Plane<float> alignment(const edge::Guide& guide, const image::Plane<float>& mask) {
    const base::Size size = mask.size();
    const auto gradient = [&](const image::Plane<float>& of, int x, int y) {
        const int left = std::max(x - 1, 0), right = std::min(x + 1, size.width - 1), above = std::max(y - 1, 0),
                  below = std::min(y + 1, size.height - 1);
        return std::pair{of.row(y)[right] - of.row(y)[left], of.row(below)[x] - of.row(above)[x]};
    };
    image::Plane<float> along(size), length(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto [mx, my] = gradient(mask, x, y);
            float& sum = along.row(y)[x] = 0;
            length.row(y)[x] = mx * mx + my * my;
            if (length.row(y)[x] == 0) continue;
            for (const image::Plane<float>* channel : {&guide.l, &guide.a, &guide.b}) {
                const auto [px, py] = gradient(*channel, x, y);
                sum += std::abs(mx * px + my * py);
            }
        }
    }
    along = kernel::boxSum(along, alignmentWindow);
    length = kernel::boxSum(length, alignmentWindow);
    return image::planeOf(size, [&](int x, int y) {
        const float l = length.row(y)[x];
        return l > 0 ? along.row(y)[x] / std::sqrt(l) : 0.0f;
    });
}

// The share of the photo's variance about each place that goes with the mask's value.
image::Plane<float> explainedBy(const edge::Guide& guide, const image::Plane<float>& mask) {
    constexpr float leastVariance = 1e-6f;
    const base::Size size = mask.size();
    const auto mean = [&](auto of) { return kernel::boxMean(image::planeOf(size, of), explainedWindow); };
    const auto at = [](const image::Plane<float>& p, int x, int y) { return p.row(y)[x]; };
    const image::Plane<float> m = mean([&](int x, int y) { return at(mask, x, y); }),
                              mm = mean([&](int x, int y) { return at(mask, x, y) * at(mask, x, y); });
    image::Plane<float> with = image::filled(size, 0.0f), all = image::filled(size, 0.0f);
    for (const image::Plane<float>* channel : {&guide.l, &guide.a, &guide.b}) {
        const image::Plane<float> p = mean([&](int x, int y) { return at(*channel, x, y); }),
                                  pp = mean([&](int x, int y) { return at(*channel, x, y) * at(*channel, x, y); }),
                                  mp = mean([&](int x, int y) { return at(mask, x, y) * at(*channel, x, y); });
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                const float covariance = at(mp, x, y) - at(m, x, y) * at(p, x, y),
                            variance = at(mm, x, y) - at(m, x, y) * at(m, x, y);
                if (variance > leastVariance) with.row(y)[x] += covariance * covariance / variance;
                all.row(y)[x] += std::max(0.0f, at(pp, x, y) - at(p, x, y) * at(p, x, y));
            }
        }
    }
    return image::planeOf(size, [&](int x, int y) { return at(with, x, y) / std::max(leastVariance, at(all, x, y)); });
}

}  // namespace

SolvedBelief beliefIn(const edge::Guide& guide, const image::Plane<float>& mask, const image::Plane<float>& solved) {
    const base::Size size = mask.size();
    const auto isApart = [&](int x, int y) { return std::abs(mask.row(y)[x] - solved.row(y)[x]) > leastDifference; };
    const auto isPartly = [&](int x, int y) {
        return solved.row(y)[x] > fullCoverage && solved.row(y)[x] < 1 - fullCoverage;
    };
    const auto near = [&](auto which) {
        return kernel::boxSum(image::planeOf(size, [&](int x, int y) { return which(x, y) ? 1.0f : 0.0f; }),
                              nearWindow);
    };
    const image::Plane<float> apart = near(isApart);
    SolvedBelief out{image::planeOf(size, [&](int x, int y) { return apart.row(y)[x] >= fewPixels ? 1.0f : 0.0f; }),
                     image::filled(size, 0.0f), image::filled(size, 0.0f), image::filled(size, 0.0f)};
    const image::Plane<float> soft = near([&](int x, int y) { return isApart(x, y) && isPartly(x, y); });
    const image::Plane<float> before = alignment(guide, mask), after = alignment(guide, solved),
                              explained = explainedBy(guide, solved);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (out.differs.row(y)[x] == 0) continue;
            const float gain = after.row(y)[x] / std::max(1e-6f, before.row(y)[x]);
            out.overMask.row(y)[x] = ramp(gain, overMaskFrom, overMaskAll);
            out.overCut.row(y)[x] = ramp(gain, overCutFrom, overCutAll);
            if (soft.row(y)[x] >= mostly * apart.row(y)[x])
                out.softPassage.row(y)[x] =
                    out.overCut.row(y)[x] * ramp(explained.row(y)[x], explainedFrom, explainedAll);
        }
    }
    return out;
}

}  // namespace dimhem::check
