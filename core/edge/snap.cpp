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

Sides knownBeyond(const Sides& sides, const image::Plane<float>& distance, double beyondPx) {
    Sides known(sides.size());
    for (int y = 0; y < sides.size().height; ++y) {
        std::transform(sides.row(y).begin(), sides.row(y).end(), distance.row(y).begin(), known.row(y).begin(),
                       [=](Side side, float d) { return double{d} > beyondPx ? side : Side::unknown; });
    }
    return known;
}

bool hasBoth(const Sides& known) {
    constexpr std::ptrdiff_t fewest = 60;
    std::ptrdiff_t inside = 0, outside = 0;
    for (int y = 0; y < known.size().height; ++y) {
        inside += std::ranges::count(known.row(y), Side::inside);
        outside += std::ranges::count(known.row(y), Side::outside);
    }
    return inside >= fewest && outside >= fewest;
}

// What the colours beyond the band say of each pixel; of a thing that is thinner than that, those farther within it.
// Without it a stick that lies wholly within the band would be cut away: there is none of it beyond. 0 where one side
// has no colours to go by.
image::Plane<float> likelihoodOf(const Guide& guide, const Sides& sides, const image::Plane<float>& distance,
                                 double bandPx, double noise) {
    constexpr float share = 0.5f;
    Sides known = knownBeyond(sides, distance, bandPx / 2);
    if (!hasBoth(known)) known = knownBeyond(sides, distance, bandPx / 4);
    if (!hasBoth(known)) known = knownBeyond(sides, distance, 1.5);
    if (!hasBoth(known)) return image::filled(sides.size(), 0.0f);
    image::Plane<float> out = evidence(guide, known, noise);
    for (int y = 0; y < out.size().height; ++y) {
        for (float& v : out.row(y)) v *= share;
    }
    return out;
}

// Where the mask and what was found hardly differ, for as much as is contested there, the mask was right and stays to
// the letter: a matte found anew is never quite the one that was there. So it does where its line did not move and it
// is about as sharp as what was found. What colours told surely and otherwise than the mask has it counts for itself.
void keepWhatAgrees(const image::Plane<float>& mask, const Sides& before, const Sides& after,
                    const image::Plane<float>& told, image::Plane<float>& found) {
    constexpr int window = 4;
    constexpr float partly = 0.03f, differs = 0.3f, agrees = 0.12f, disagrees = 0.25f;
    constexpr float toldApart = 0.05f;  // from here what was told begins to count, at twice that it does
    constexpr float sharper = 1.5f, fewPixels = 4;
    const base::Size size = mask.size();
    const auto within = [](float v) { return v > partly && v < 1 - partly; };
    const auto summed = [&](auto valueAt) { return kernel::boxSum(image::planeOf(size, valueAt), window); };
    const auto apart = [&](int x, int y) { return std::abs(mask.row(y)[x] - found.row(y)[x]); };
    const image::Plane<float> soft = summed([&](int x, int y) { return within(mask.row(y)[x]) ? 1.0f : 0.0f; }),
                              softFound = summed([&](int x, int y) { return within(found.row(y)[x]) ? 1.0f : 0.0f; }),
                              moved = summed(
                                  [&](int x, int y) { return before.row(y)[x] != after.row(y)[x] ? 1.0f : 0.0f; }),
                              off = summed(apart),
                              contested = summed([&](int x, int y) {
                                  const bool open = within(mask.row(y)[x]) || within(found.row(y)[x]);
                                  return open || apart(x, y) > differs ? 1.0f : 0.0f;
                              });
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const bool stays = moved.row(y)[x] < 0.5f && soft.row(y)[x] <= sharper * softFound.row(y)[x] + fewPixels;
            const float d = off.row(y)[x] / std::max(1.0f, contested.row(y)[x]);
            const float about = stays ? 0 : std::clamp((d - agrees) / (disagrees - agrees), 0.0f, 1.0f);
            const float here = std::clamp((apart(x, y) - toldApart) / toldApart, 0.0f, 1.0f);
            const float t = std::max(about, here * told.row(y)[x]);
            found.row(y)[x] = mask.row(y)[x] + t * t * (3 - 2 * t) * (found.row(y)[x] - mask.row(y)[x]);
        }
    }
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
    const FoundMatte matte = matteOf(guide, sides);
    const image::Plane<float> full = levelOf(mask, before, distance, Side::inside, bandPx, 1);
    const image::Plane<float> none = levelOf(mask, before, distance, Side::outside, bandPx, 0);
    image::Plane<float> out(mask.size());
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) {
            const float low = none.row(y)[x], high = full.row(y)[x];
            const bool far = double{distance.row(y)[x]} > reach;
            out.row(y)[x] = far ? mask.row(y)[x] : low + (high - low) * matte.coverage.row(y)[x];
        }
    }
    keepWhatAgrees(mask, before, sides, matte.told, out);
    return out;
}

}  // namespace dimhem::edge
