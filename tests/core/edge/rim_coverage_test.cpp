// What colours tell of the pixels a sharp edge passes through, where the answer is known exactly.
#include "core/edge/rim_coverage.h"

#include <gtest/gtest.h>

#include "tests/support/edge_scene.h"
#include "tests/support/mirrored.h"

namespace dimhem::edge {

namespace {

using tests::EdgeScene;
using tests::Mirror;
using tests::mirrored;

EdgeScene scene(double softPx, double grain) {
    EdgeScene made;
    made.softPx = softPx;
    made.grain = grain;
    return made;
}

RimCoverage told(const EdgeScene& made, const image::Plane<float>& mask) {
    const Sides sides = sidesOf(mask);
    return rimCoverage(made.guide(), sides, distanceToEdge(sides, 15));
}

struct Told {
    double wrong = 0, trust = 0, least = 1;  // mean error weighed by trust, mean and least trust, where partly covered
};

Told against(const EdgeScene& made, const RimCoverage& rim) {
    Told out;
    double count = 0;
    made.forEach([&](int x, int y) {
        const double truth = made.matteAt(x + 0.5, y + 0.5);
        if (truth < 0.1 || truth > 0.9) return;
        const double trust = double{rim.trust.row(y)[static_cast<std::size_t>(x)]};
        out.wrong += trust * std::abs(double{rim.covered.row(y)[static_cast<std::size_t>(x)]} - truth);
        out.trust += trust;
        out.least = std::min(out.least, trust);
        ++count;
    });
    out.wrong /= std::max(1e-9, out.trust);
    out.trust /= count;
    return out;
}

}  // namespace

// P = a F + (1 - a) B in linear light, for constant F and B: a is told exactly.
TEST(RimCoverage, OfAMixtureOfTwoConstantColoursIsExact) {
    for (const double softPx : {0.6, 1.0, 2.0}) {
        const EdgeScene made = scene(softPx, 0);
        const Told out = against(made, told(made, made.matte()));
        EXPECT_LT(out.wrong, 0.005) << softPx;
        EXPECT_GT(out.least, 0.99) << softPx;
    }
}

// So what it can do wrong, its error times its trust, stays small whatever the noise.
TEST(RimCoverage, IsTrustedLessTheMoreNoiseThereIs) {
    double before = 1.1;
    for (const double grain : {0.0, 0.03, 0.1, 0.25}) {
        const EdgeScene made = scene(1, grain);
        const Told out = against(made, told(made, made.matte()));
        EXPECT_LT(out.trust, before) << grain;
        EXPECT_LT(out.wrong * out.trust, 0.08) << grain;
        before = out.trust;
    }
    EXPECT_LT(before, 0.1);
}

TEST(RimCoverage, TurnedInsideOutIsTheOtherPartOfOne) {
    const EdgeScene made = scene(1.5, 0.03);
    const RimCoverage rim = told(made, made.matte()),
                      turned = told(made, made.plane([&](double x, double y) { return 1 - made.matteAt(x, y); }));
    made.forEach([&](int x, int y) {
        const auto i = static_cast<std::size_t>(x);
        EXPECT_NEAR(rim.trust.row(y)[i], turned.trust.row(y)[i], 2e-3) << x << " " << y;
        if (rim.trust.row(y)[i] > 0) {
            EXPECT_NEAR(rim.covered.row(y)[i], 1 - turned.covered.row(y)[i], 2e-3) << x << " " << y;
        }
    });
}

TEST(RimCoverage, SaysNothingOfTwoSidesAlike) {
    EdgeScene made = scene(1, 0.01);
    made.subject = {made.backdrop.r + 0.01, made.backdrop.g, made.backdrop.b};
    EXPECT_EQ(against(made, told(made, made.matte())).trust, 0);
}

TEST(RimCoverage, SaysNothingWhereTheCutIsNotOnTheEdge) {
    const EdgeScene made = scene(1, 0.005);
    for (const double off : {2.0, 3.0, -3.0, 6.0}) {
        const RimCoverage rim = told(made, made.movedMatte(off));
        double trust = 0, count = 0;
        made.forEach([&](int x, int y) {
            if (std::abs(made.outside(x + 0.5, y + 0.5) - off) > 1) return;
            trust += double{rim.trust.row(y)[static_cast<std::size_t>(x)]};
            ++count;
        });
        EXPECT_LT(trust / count, 0.1) << off;
    }
}

// A third colour along the edge, such as a dark seam, is no mixture of the other two.
TEST(RimCoverage, SaysNothingOfAThirdColour) {
    const EdgeScene made = scene(1, 0);
    Guide guide = made.guide();
    made.forEach([&](int x, int y) {
        if (std::abs(made.outside(x + 0.5, y + 0.5)) > 1.5) return;
        guide.l.row(y)[static_cast<std::size_t>(x)] = 0.6f;
        guide.a.row(y)[static_cast<std::size_t>(x)] = -0.15f;
        guide.b.row(y)[static_cast<std::size_t>(x)] = 0.12f;
    });
    const Sides sides = sidesOf(made.matte());
    const RimCoverage rim = rimCoverage(guide, sides, distanceToEdge(sides, 15));
    EXPECT_LT(against(made, rim).trust, 0.02);
}

// What either side varies by counts, whichever side it is.
TEST(RimCoverage, NoiseOnOneSideAloneIsTrustedLess) {
    const EdgeScene made = scene(1, 0);
    const auto noisy = [&](bool inside) {
        EdgeScene other = made;
        other.grain = 0.2;
        Guide guide = made.guide();
        const Guide rough = other.guide();
        made.forEach([&](int x, int y) {
            const auto i = static_cast<std::size_t>(x);
            if ((made.outside(x + 0.5, y + 0.5) < 0) != inside) return;
            guide.l.row(y)[i] = rough.l.row(y)[i];
            guide.a.row(y)[i] = rough.a.row(y)[i];
            guide.b.row(y)[i] = rough.b.row(y)[i];
        });
        const Sides sides = sidesOf(made.matte());
        return against(made, rimCoverage(guide, sides, distanceToEdge(sides, 15))).trust;
    };
    const double calm = against(made, told(made, made.matte())).trust, within = noisy(true), without = noisy(false);
    EXPECT_GT(calm, 0.99);
    EXPECT_LT(within, 0.6 * calm);
    EXPECT_LT(without, 0.6 * calm);
}

// A mirrored scene comes to the mirrored outcome.
TEST(RimCoverage, OfAMirroredSceneIsMirrored) {
    const EdgeScene made = scene(1.5, 0.03);
    const Guide guide = made.guide();
    const Sides sides = sidesOf(made.matte());
    const RimCoverage rim = rimCoverage(guide, sides, distanceToEdge(sides, 15));
    for (const Mirror mirror : {Mirror::across, Mirror::upsideDown}) {
        const Sides otherSides = mirrored(sides, mirror);
        const RimCoverage back = rimCoverage(mirrored(guide, mirror), otherSides, distanceToEdge(otherSides, 15));
        const auto covered = mirrored(back.covered, mirror), trust = mirrored(back.trust, mirror);
        made.forEach([&](int x, int y) {
            const auto i = static_cast<std::size_t>(x);
            ASSERT_NEAR(trust.row(y)[i], rim.trust.row(y)[i], 2e-3) << x << " " << y;
            if (rim.trust.row(y)[i] > 0.01f) {
                ASSERT_NEAR(covered.row(y)[i], rim.covered.row(y)[i], 2e-3);
            }
        });
    }
}

}  // namespace dimhem::edge
