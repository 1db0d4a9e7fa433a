#include "core/edge/found_band.h"

#include <algorithm>
#include <cmath>

#include "core/edge/solved_matte.h"
#include "core/kernel/box_sum.h"
#include "core/kernel/extreme_filter.h"
#include "core/kernel/signed_distance.h"

namespace dimhem::edge {

namespace {

using image::Plane;
using Zone = Plane<std::uint8_t>;

constexpr float firstPx = 6, farthestPx = 80;  // about the edge
constexpr int growPx = 6, rimPx = 4;
constexpr float contrary = 0.12f;  // so far from the mask at the rim is not the end of the passage

Plane<float> floatsOf(const Zone& zone) {
    return image::planeOf(zone.size(), [&](int x, int y) { return static_cast<float>(zone.view().at(x, y)); });
}

template <class F>
Zone zoneOf(base::Size size, F f) {
    Zone zone(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) zone.row(y)[x] = f(x, y) ? 1 : 0;
    }
    return zone;
}

double areaOf(const Zone& zone) {
    double area = 0;
    for (int y = 0; y < zone.size().height; ++y) {
        for (const std::uint8_t z : zone.row(y)) area += z;
    }
    return area;
}

// Where, near the band's rim, the colours are surely on the other side than the mask.
Zone against(const Zone& zone, const Plane<float>& mask, const Likely& likely) {
    constexpr int reach = 2;
    const Plane<float> off = kernel::boxMean(
        image::planeOf(zone.size(),
                       [&](int x, int y) {
                           return zone.view().at(x, y)
                                      ? likely.trust.view().at(x, y) *
                                            std::abs(likely.alpha.view().at(x, y) - mask.view().at(x, y))
                                      : 0.0f;
                       }),
        reach);
    const Plane<float> inBand = kernel::boxMean(floatsOf(zone), reach),
                       innermost = kernel::leastAround(floatsOf(zone), rimPx);
    return zoneOf(zone.size(), [&](int x, int y) {
        return zone.view().at(x, y) && innermost.view().at(x, y) < 0.5f &&
               off.view().at(x, y) > contrary * inBand.view().at(x, y);
    });
}

// How far from the edge samples are taken: near it a hull holds some of the other side. Less in what is thin.
float samplesFrom(const Plane<float>& distance, float side) {
    constexpr float farEnough = 22, ofDeepest = 0.6f;
    float deepest = 0;
    for (int y = 0; y < distance.size().height; ++y) {
        for (const float d : distance.row(y)) deepest = std::max(deepest, side * d);
    }
    return std::min(farEnough, ofDeepest * deepest);
}

// What the colours say in the band.
Likely told(const image::LinearPlanes& picture, const Plane<float>& distance, const Zone& zone, double noise) {
    const float inside = samplesFrom(distance, -1), outside = samplesFrom(distance, 1);
    Plane<Known> known(zone.size()), samples(zone.size());
    for (int y = 0; y < zone.size().height; ++y) {
        for (int x = 0; x < zone.size().width; ++x) {
            const float d = distance.view().at(x, y);
            known.row(y)[x] = zone.row(y)[x] ? Known::unknown : d < 0 ? Known::thing : Known::ground;
            samples.row(y)[x] = d < -inside || d > outside ? known.row(y)[x] : Known::unknown;
        }
    }
    return alphaByColours(picture, {0, 0}, known, samples, {.noise = noise});
}

// How much contour there is about each pixel, in lengths of a plain edge through it; and how much is mixed, as a share.
struct Fineness {
    Plane<float> contour, mixed;
};

Fineness finenessOf(const Plane<float>& solved) {
    constexpr int reach = 8;
    const base::Size size = solved.size();
    const auto step = [&](int x, int y) {
        const float here = solved.view().at(x, y), right = solved.view().at(std::min(x + 1, size.width - 1), y),
                    down = solved.view().at(x, std::min(y + 1, size.height - 1));
        return std::hypot(right - here, down - here);
    };
    const auto isMixed = [&](int x, int y) {
        const float a = solved.view().at(x, y);
        return a > 0.1f && a < 0.9f ? 1.0f : 0.0f;
    };
    Fineness fine{kernel::boxSum(image::planeOf(size, step), reach),
                  kernel::boxSum(image::planeOf(size, isMixed), reach)};
    constexpr float side = 2 * reach + 1;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            fine.contour.row(y)[x] /= side;
            fine.mixed.row(y)[x] /= side * side;
        }
    }
    return fine;
}

}  // namespace

Zone foundBand(const image::LinearPlanes& picture, const Plane<float>& mask, double noise) {
    constexpr int mostRounds = 12;
    constexpr double growsOn = 0.02;
    // A solution wavers with the noise: then more of it is asked for.
    const float leastContour = 2.0f + 40 * static_cast<float>(noise),
                leastMixed = 0.35f + 5 * static_cast<float>(noise);
    const base::Size size = mask.size();
    const kernel::DistanceField field = kernel::signedDistance(mask);
    if (!field.hasContour) return image::filled(size, std::uint8_t{0});
    const auto distance = [&](int x, int y) { return std::abs(field.distance.view().at(x, y)); };
    Zone zone = zoneOf(size, [&](int x, int y) { return distance(x, y) < firstPx; });
    for (int round = 0; round < mostRounds; ++round) {
        const Likely likely = told(picture, field.distance, zone, noise);
        const Plane<float> more = kernel::greatestAround(floatsOf(against(zone, mask, likely)), growPx);
        Zone grown = zoneOf(size, [&](int x, int y) {
            return zone.view().at(x, y) || (more.view().at(x, y) > 0.5f && distance(x, y) < farthestPx);
        });
        const double before = areaOf(zone), after = areaOf(grown);
        zone = std::move(grown);
        if (after < (1 + growsOn) * before) break;
    }
    const Fineness fine =
        finenessOf(solvedMatte(picture, {0, 0}, mask, zone, base::rectOf(size), {.rounds = 1, .noise = noise}));
    const Zone kept = zoneOf(size, [&](int x, int y) {
        return zone.view().at(x, y) &&
               (fine.contour.view().at(x, y) > leastContour || fine.mixed.view().at(x, y) > leastMixed);
    });
    const Plane<float> about = kernel::greatestAround(floatsOf(kept), growPx);
    return zoneOf(size, [&](int x, int y) { return zone.view().at(x, y) && about.view().at(x, y) > 0.5f; });
}

}  // namespace dimhem::edge
