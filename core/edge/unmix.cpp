#include "core/edge/unmix.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/kernel/box_sum.h"

namespace dimhem::edge {

namespace {

constexpr int wideRadius = 24, smallRadius = 6, agreementRadius = 4;
static_assert(wideRadius + smallRadius + agreementRadius <= unmixReach);
constexpr float nothing = 1e-4f;                 // of a sum of coverage
constexpr float alike = 0.02f;                   // of F and B, in linear light: below, the mixture says nothing
constexpr float agrees = 0.12f, differs = 0.3f;  // mean difference of the coverage and the one that P implies

using Channels = std::array<const image::Plane<float>*, 3>;

Channels channelsOf(const image::LinearPlanes& planes) {
    return {&planes.red, &planes.green, &planes.blue};
}

// The mean of a channel about each place, weighed; `otherwise` where there is no weight.
image::Plane<float> weighedMean(const image::Plane<float>& channel, const image::Plane<float>& weight,
                                const image::Plane<float>& weightSum, int radius,
                                const image::Plane<float>& otherwise) {
    const image::Plane<float> sum = kernel::boxSum(
        image::planeOf(channel.size(), [&](int x, int y) { return channel.row(y)[x] * weight.row(y)[x]; }), radius);
    return image::planeOf(channel.size(), [&](int x, int y) {
        const float n = weightSum.row(y)[x];
        return n > nothing ? sum.row(y)[x] / n : otherwise.row(y)[x];
    });
}

struct Layers {
    std::array<image::Plane<float>, 3> own, behind;
};

// One step: both layers blurred over `radius`, then moved, each by its share, so that they add up to the picture.
Layers separated(const Channels& picture, const Channels& own, const Channels& behind,
                 const image::Plane<float>& coverage, int radius) {
    const base::Size size = coverage.size();
    // Squared, so that what is hardly of a layer counts for little in it.
    const auto squared = [](float v) { return v * v; };
    const image::Plane<float> ofOwn = image::planeOf(size, [&](int x, int y) { return squared(coverage.row(y)[x]); });
    const image::Plane<float> ofBehind =
        image::planeOf(size, [&](int x, int y) { return squared(1 - coverage.row(y)[x]); });
    const image::Plane<float> ownSum = kernel::boxSum(ofOwn, radius), behindSum = kernel::boxSum(ofBehind, radius);
    Layers out;
    for (std::size_t c = 0; c < 3; ++c) {
        out.own[c] = weighedMean(*own[c], ofOwn, ownSum, radius, *picture[c]);
        out.behind[c] = weighedMean(*behind[c], ofBehind, behindSum, radius, *picture[c]);
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                const float a = coverage.row(y)[x];
                float& f = out.own[c].row(y)[x];
                float& b = out.behind[c].row(y)[x];
                const float off = picture[c]->row(y)[x] - a * f - (1 - a) * b;
                f += a * off;
                b += (1 - a) * off;
            }
        }
    }
    return out;
}

Channels channelsOf(const std::array<image::Plane<float>, 3>& planes) {
    return {&planes[0], &planes[1], &planes[2]};
}

// How far the coverage that the picture's colour implies, between the blurred layers, is from the one given.
image::Plane<float> trustIn(const Channels& picture, const Layers& layers, const image::Plane<float>& coverage) {
    const base::Size size = coverage.size();
    image::Plane<float> weight(size), off(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            float along = 0, length = 0;
            for (std::size_t c = 0; c < 3; ++c) {
                const float behind = layers.behind[c].row(y)[x], way = layers.own[c].row(y)[x] - behind;
                along += (picture[c]->row(y)[x] - behind) * way;
                length += way * way;
            }
            const float a = coverage.row(y)[x];
            const bool counts = a > 0.02f && a < 0.98f && length > alike * alike;
            weight.row(y)[x] = counts ? a * (1 - a) : 0;
            off.row(y)[x] = counts ? a * (1 - a) * std::min(1.0f, std::abs(along / length - a)) : 0;
        }
    }
    const image::Plane<float> sum = kernel::boxSum(weight, agreementRadius),
                              offs = kernel::boxSum(off, agreementRadius);
    return image::planeOf(size, [&](int x, int y) {
        const float n = sum.row(y)[x];
        return n < nothing ? 0.0f : std::clamp((differs - offs.row(y)[x] / n) / (differs - agrees), 0.0f, 1.0f);
    });
}

}  // namespace

Unmixed unmix(const image::LinearPlanes& picture, const image::Plane<float>& coverage) {
    const Channels seen = channelsOf(picture);
    const Layers wide = separated(seen, seen, seen, coverage, wideRadius);
    Layers near = separated(seen, channelsOf(wide.own), channelsOf(wide.behind), coverage, smallRadius);
    Unmixed out;
    out.trust = trustIn(seen, wide, coverage);
    const auto own = [&](std::size_t c) {
        return image::planeOf(coverage.size(), [&](int x, int y) {
            const float a = coverage.row(y)[x];
            return a <= 0 || a >= 1 ? seen[c]->row(y)[x] : std::max(0.0f, near.own[c].row(y)[x]);
        });
    };
    out.own.red = own(0);
    out.own.green = own(1);
    out.own.blue = own(2);
    return out;
}

}  // namespace dimhem::edge
