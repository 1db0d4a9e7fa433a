#include "core/edge/matte.h"

#include <algorithm>
#include <cmath>

#include "core/edge/guided_filter.h"
#include "core/edge/rim_coverage.h"
#include "core/edge/side_sums.h"
#include "core/kernel/box_sum.h"

namespace dimhem::edge {

namespace {

constexpr int sharpRadius = 4;      // of the guided filter
constexpr double flat = 1e-4;       // its eps
constexpr float sharpGain = 1.25f;  // about one half: takes off the texture that the filter lets into full and none
constexpr int softRadius = 3;       // of the guided filter on soft edges
constexpr double softFlat = 1e-3;   // its eps
constexpr int softReach = 14;       // how far from the cut a soft edge is followed, in pixels
constexpr int sideWindow = 34;      // where the colours of the two sides are taken, beyond that
constexpr float sharpWidth = 5.5f, softWidth = 8.0f;  // 80 % of the passage: sharp up to here, soft from here
constexpr float least = 0.0025f;  // squared distance of the two sides' colours, to tell between them

// Where each colour lies on the way from the outside's mean to the inside's, 0..1; below 0 where that says nothing.
image::Plane<float> betweenSides(const Guide& guide, const Sides& sides, const image::Plane<float>& distance) {
    const SideSums inside = sideSums(guide, sides, distance, Side::inside, softReach, sideWindow, false);
    const SideSums outside = sideSums(guide, sides, distance, Side::outside, softReach, sideWindow, false);
    const image::Plane<float>* channels[3] = {&guide.l, &guide.a, &guide.b};
    return image::planeOf(sides.size(), [&](int x, int y) {
        const float nIn = inside.count.row(y)[x], nOut = outside.count.row(y)[x];
        if (distance.row(y)[x] > softReach || nIn < fewestSamples || nOut < fewestSamples) return -1.0f;
        float along = 0, length = 0;
        for (int c = 0; c < 3; ++c) {
            const float from = outside.sum[c].row(y)[x] / nOut, way = inside.sum[c].row(y)[x] / nIn - from;
            along += (channels[c]->row(y)[x] - from) * way;
            length += way * way;
        }
        return length < least ? -1.0f : std::clamp(along / length, 0.0f, 1.0f);
    });
}

// The width of the passage about each place: how many pixels lie in the middle of it, per pixel of the cut's length.
// What lies in the middle far from the cut as well is texture; where there is much of it the edge counts as sharp.
image::Plane<float> widthOf(const image::Plane<float>& between, const image::Plane<float>& distance) {
    constexpr float near = softReach * 0.7f;
    const base::Size size = between.size();
    const auto counted = [&](auto f) { return kernel::boxSum(image::planeOf(size, f), 2 * softReach); };
    const auto isMiddle = [&](int x, int y) { return between.row(y)[x] > 0.1f && between.row(y)[x] < 0.9f; };
    const image::Plane<float> cut = counted([&](int x, int y) { return distance.row(y)[x] < 1 ? 0.5f : 0.0f; });
    const image::Plane<float> middle =
        counted([&](int x, int y) { return distance.row(y)[x] <= near && isMiddle(x, y) ? 1.0f : 0.0f; });
    const auto isFar = [&](int x, int y) { return between.row(y)[x] >= 0 && distance.row(y)[x] > near; };
    const image::Plane<float> far = counted([&](int x, int y) { return isFar(x, y) ? 1.0f : 0.0f; });
    const image::Plane<float> farMiddle =
        counted([&](int x, int y) { return isFar(x, y) && isMiddle(x, y) ? 1.0f : 0.0f; });
    return image::planeOf(size, [&](int x, int y) {
        const bool textured = farMiddle.row(y)[x] > 0.15f * far.row(y)[x];
        return textured ? 0.0f : middle.row(y)[x] / std::max(1.0f, cut.row(y)[x]);
    });
}

// The guided filter where it is asked for: over the smallest rectangle that holds all such places.
class Filtered {
public:
    template <class Wanted>
    Filtered(const Guide& guide, const image::Plane<float>& plane, int radius, double eps, Wanted wanted) {
        const base::Size size = plane.size();
        base::Rect places{size.width, size.height, 0, 0};
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                if (!wanted(x, y)) continue;
                places = {std::min(places.x0, x), std::min(places.y0, y), std::max(places.x1, x + 1),
                          std::max(places.y1, y + 1)};
            }
        }
        if (places.empty()) return;
        const int reach = 2 * radius;
        rect_ = base::intersected({places.x0 - reach, places.y0 - reach, places.x1 + reach, places.y1 + reach},
                                  base::rectOf(size));
        const Guide part{cropped(guide.l, rect_), cropped(guide.a, rect_), cropped(guide.b, rect_)};
        values_ = guided(part, cropped(plane, rect_), radius, eps);
    }
    float at(int x, int y) const { return values_.row(y - rect_.y0)[static_cast<std::size_t>(x - rect_.x0)]; }

private:
    base::Rect rect_;
    image::Plane<float> values_;
};

}  // namespace

FoundMatte matteOf(const Guide& guide, const Sides& sides) {
    const base::Size size = sides.size();
    const image::Plane<float> hard =
        image::planeOf(size, [&](int x, int y) { return sides.row(y)[x] == Side::inside ? 1.0f : 0.0f; });
    const image::Plane<float> distance = distanceToEdge(sides, softReach + 1);
    const image::Plane<float> between = betweenSides(guide, sides, distance);
    const image::Plane<float> width = widthOf(between, distance);
    const image::Plane<float> softness = image::planeOf(size, [&](int x, int y) {
        if (distance.row(y)[x] > softReach) return 0.0f;
        return std::clamp((width.row(y)[x] - sharpWidth) / (softWidth - sharpWidth), 0.0f, 1.0f);
    });
    const image::Plane<float> open =
        image::planeOf(size, [&](int x, int y) { return between.row(y)[x] < 0 ? hard.row(y)[x] : between.row(y)[x]; });
    const auto near = [&](int x, int y) { return distance.row(y)[x] <= 2 * sharpRadius; };
    const Filtered sharp(guide, hard, sharpRadius, flat, near);
    const Filtered soft(guide, open, softRadius, softFlat, [&](int x, int y) { return softness.row(y)[x] > 0; });
    RimCoverage rim = rimCoverage(guide, sides, distance);
    image::Plane<float> coverage = image::planeOf(size, [&](int x, int y) {
        float crisp = near(x, y) ? std::clamp((sharp.at(x, y) - 0.5f) * sharpGain + 0.5f, 0.0f, 1.0f) : hard.row(y)[x];
        crisp += rim.trust.row(y)[x] * (rim.covered.row(y)[x] - crisp);
        const float t = softness.row(y)[x];
        return t == 0 ? crisp : crisp + t * (std::clamp(soft.at(x, y), 0.0f, 1.0f) - crisp);
    });
    return {std::move(coverage), std::move(rim.trust)};
}

}  // namespace dimhem::edge
