#include "core/edge/solved_matte.h"

#include <cmath>

#include "core/edge/matting_laplacian.h"

namespace dimhem::edge {

namespace {

using image::Plane;

template <class F>
void forEachPixel(base::Size size, F f) {
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) f(x, y);
    }
}

bool has(const Plane<Known>& known, Known side) {
    for (int y = 0; y < known.size().height; ++y) {
        for (const Known k : known.row(y)) {
            if (k == side) return true;
        }
    }
    return false;
}

// What both the colours and the solution are sure of.
void addSure(const Likely& likely, const Plane<float>& solved, const Plane<Known>& known, Plane<Known>& samples) {
    constexpr float pure = 0.98f, leastTrust = 0.5f, apart = 0.15f;
    forEachPixel(known.size(), [&](int x, int y) {
        if (known.view().at(x, y) != Known::unknown) return;
        const float alpha = likely.alpha.view().at(x, y);
        const bool sure =
            likely.trust.view().at(x, y) >= leastTrust && std::abs(solved.view().at(x, y) - alpha) < apart;
        Known& sample = samples.view().at(x, y);
        sample = !sure              ? Known::unknown
                 : alpha > pure     ? Known::thing
                 : alpha < 1 - pure ? Known::ground
                                    : Known::unknown;
    });
}

}  // namespace

Plane<float> solvedMatte(const image::LinearPlanes& picture, base::Point at, const Plane<float>& mask,
                         const Plane<std::uint8_t>& zone, const base::Rect& domain, const SolveSettings& settings) {
    const base::Size size = picture.size();
    Plane<Known> known(size), samples(size);
    forEachPixel(size, [&](int x, int y) {
        const Known side = mask.view().at(x, y) > 0.5f ? Known::thing : Known::ground;
        const bool isZone = zone.view().at(x, y) != 0;
        known.view().at(x, y) = isZone && domain.contains(x, y) ? Known::unknown : side;
        samples.view().at(x, y) = isZone ? Known::unknown : side;
    });
    if (!has(known, Known::unknown) || !has(samples, Known::thing) || !has(samples, Known::ground))
        return image::copied(mask);
    const MattingLaplacian laplacian(picture, known, mask);
    Plane<float> solved;
    for (int round = 0; round < settings.rounds; ++round) {
        const Likely likely = alphaByColours(picture, at, known, samples, {round == 0 ? 64 : 40, 0.10, settings.noise});
        // What a round before the last is for, to find samples, is told by less.
        const double accuracy = round + 1 < settings.rounds ? 2e-3 : 1e-4;
        solved = laplacian.solve(likely, round == 0 ? likely.alpha : solved, settings.lambda, accuracy);
        addSure(likely, solved, known, samples);
    }
    return solved;
}

}  // namespace dimhem::edge
