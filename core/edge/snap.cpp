#include "core/edge/snap.h"

#include <algorithm>
#include <cmath>

#include "core/edge/band_cut.h"
#include "core/edge/colour_cut.h"
#include "core/edge/keep_near.h"
#include "core/edge/matte.h"
#include "core/kernel/box_sum.h"

namespace dimhem::edge {

namespace {

constexpr double matteReachPx = 14;

// The mean of the mask on one side beyond the band, about each place; `otherwise` where there is none of it near.
image::Plane<float> levelOf(const image::Plane<float>& mask, const Sides& sides, const image::Plane<float>& distance,
                            Side side, double bandPx, float otherwise) {
    const base::Size size = mask.size();
    image::Plane<float> count(size), sum(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const bool counts = sides.row(y)[x] == side && double{distance.row(y)[x]} > bandPx;
            count.row(y)[x] = counts ? 1.0f : 0.0f;
            sum.row(y)[x] = counts ? mask.row(y)[x] : 0.0f;
        }
    }
    const int window = static_cast<int>(std::lround(bandPx)) + 8;
    count = kernel::boxSum(count, window);
    sum = kernel::boxSum(sum, window);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const float n = count.row(y)[x];
            sum.row(y)[x] = n < 1 ? otherwise : sum.row(y)[x] / n;
        }
    }
    return sum;
}

// What the colours beyond the band say of each pixel. Without it a thin thing that lies wholly within the band, such as
// a stick, would be cut away: there is none of it beyond.
image::Plane<float> likelihoodOf(const Guide& guide, const Sides& sides, const image::Plane<float>& distance,
                                 double bandPx, double noise) {
    constexpr float share = 0.5f;
    Sides known(sides.size());
    for (int y = 0; y < sides.size().height; ++y) {
        for (int x = 0; x < sides.size().width; ++x)
            known.row(y)[x] = double{distance.row(y)[x]} > bandPx / 2 ? sides.row(y)[x] : Side::unknown;
    }
    image::Plane<float> out = evidence(guide, known, noise);
    for (int y = 0; y < out.size().height; ++y) {
        for (float& v : out.row(y)) v *= share;
    }
    return out;
}

}  // namespace

int snapReach(double bandPx) {
    return static_cast<int>(std::ceil(3 * bandPx)) + 20;
}

image::Plane<float> snapped(const Guide& guide, const image::Plane<float>& mask, double bandPx, double noise,
                            double mostPx) {
    const Sides before = sidesOf(mask);
    const double reach = bandPx + matteReachPx;
    const image::Plane<float> distance = distanceToEdge(before, reach);
    Sides sides = image::copied(before);
    const image::Plane<float> likely = likelihoodOf(guide, before, distance, bandPx, noise);
    cutBand(guide, bandPx, noise, sides, &likely);
    if (bandPx > 4) cutBand(guide, std::max(4.0, bandPx / 2), noise, sides, &likely);
    keepNear(before, std::min(mostPx, bandPx), sides);
    const image::Plane<float> matte = matteOf(guide, sides);
    const image::Plane<float> full = levelOf(mask, before, distance, Side::inside, bandPx, 1);
    const image::Plane<float> none = levelOf(mask, before, distance, Side::outside, bandPx, 0);
    image::Plane<float> out(mask.size());
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) {
            const float low = none.row(y)[x], high = full.row(y)[x];
            const bool far = double{distance.row(y)[x]} > reach;
            out.row(y)[x] = far ? mask.row(y)[x] : low + (high - low) * matte.row(y)[x];
        }
    }
    return out;
}

}  // namespace dimhem::edge
