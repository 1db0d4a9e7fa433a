#include "core/edge/snap.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "core/edge/band_cut.h"
#include "core/edge/colour_cut.h"
#include "core/edge/keep_near.h"
#include "core/edge/matte.h"
#include "core/edge/sides.h"
#include "tests/support/edge_scene.h"
#include "tests/support/mirrored.h"

namespace dimhem::edge {

namespace {

using tests::EdgeScene;
using tests::HemError;
using tests::hemError;

HemError snappedError(const EdgeScene& scene, double movedBy) {
    const Guide guide = scene.guide();
    return hemError(snapped(guide, scene.movedMatte(movedBy), std::abs(movedBy) + 3, noiseOf(guide.l)), scene.matte());
}

}  // namespace

TEST(BandCut, FindsTheEdgeFromUpToItsBandAway) {
    const EdgeScene scene;
    const Guide guide = scene.guide();
    for (const double off : {-7.0, 7.0}) {
        Sides sides = sidesOf(scene.movedMatte(off));
        cutBand(guide, 10, noiseOf(guide.l), sides);
        int wrong = 0;
        scene.forEach([&](int x, int y) {
            const double d = scene.outside(x + 0.5, y + 0.5);
            if (std::abs(d) > 1) wrong += (sides.row(y)[static_cast<std::size_t>(x)] == Side::inside) != (d < 0);
        });
        EXPECT_LE(wrong, 3) << off;
    }
}

TEST(Snap, TakesTheSpillAndTheShortfallOfAMaskThatIsOff) {
    const EdgeScene scene;
    for (const double off : {-8.0, -3.0, 3.0, 8.0}) {
        const HemError before = hemError(scene.movedMatte(off), scene.matte()), after = snappedError(scene, off);
        EXPECT_LT(after.spillPct + after.shortPct, 0.05 * (before.spillPct + before.shortPct) + 0.3) << off;
    }
}

TEST(Snap, LeavesARightMaskRight) {
    // Also where hardly anything tells the sides apart, in noise, and of thin things alone.
    for (const double grain : {0.0, 0.04}) {
        for (const double contrast : {1.0, 0.12}) {
            EdgeScene scene;
            scene.grain = grain;
            scene.subject = {scene.backdrop.r + contrast * (scene.subject.r - scene.backdrop.r),
                             scene.backdrop.g + contrast * (scene.subject.g - scene.backdrop.g),
                             scene.backdrop.b + contrast * (scene.subject.b - scene.backdrop.b)};
            const Guide guide = scene.guide();
            for (const double band : {3.0, 8.0, 20.0}) {
                const HemError error = hemError(snapped(guide, scene.matte(), band, noiseOf(guide.l)), scene.matte());
                EXPECT_LT(error.spillPct + error.shortPct, contrast == 1.0 && grain == 0 ? 0.1 : 0.5)
                    << grain << ' ' << contrast << ' ' << band;
            }
        }
    }
}

TEST(Snap, LeavesThinThingsThatAreCoveredCovered) {
    EdgeScene scene;
    scene.outside = [](double x, double) { return std::abs(std::fmod(x, 40.0) - 20) - 2.5; };  // rods, 5 px thick
    const Guide guide = scene.guide();
    for (const double band : {3.0, 8.0, 20.0}) {
        const HemError error = hemError(snapped(guide, scene.matte(), band, noiseOf(guide.l)), scene.matte());
        EXPECT_LT(error.shortPct, 3) << band;
        EXPECT_LT(error.spillPct, 3) << band;
    }
}

TEST(Snap, ASlightlyWiderRampThanThePhotosIsNotMadeWorse) {
    const EdgeScene scene;
    const HemError before = hemError(scene.movedMatte(0), scene.matte()), after = snappedError(scene, 0);
    EXPECT_LE(after.spillPct, before.spillPct + 0.05);
    EXPECT_LE(after.shortPct, before.shortPct + 0.05);
}

TEST(Snap, HoldsInNoise) {
    EdgeScene scene;
    scene.grain = 0.08;
    const HemError error = snappedError(scene, 6);
    EXPECT_LT(error.spillPct, 0.6);
    EXPECT_LT(error.shortPct, 0.6);
}

TEST(Snap, KeepsAStickThatLiesWhollyWithinTheBand) {
    EdgeScene scene;
    const auto body = scene.outside;
    scene.outside = [body](double x, double y) {
        const double stick = std::max(std::abs(y - 60) - 3, x - 225);
        return std::min(body(x, y), x > 140 ? stick : 1e3);
    };
    const Guide guide = scene.guide();
    const image::Plane<float> mask = snapped(guide, scene.matte(), 10, noiseOf(guide.l));
    for (std::size_t x = 170; x < 220; x += 10) EXPECT_GT(mask.row(60)[x], 0.9f) << x;
}

TEST(Snap, KeepsWhatTheMaskHadWithinAndWithoutBesidesTheEdge) {
    // A mask that is only 70 % full and 10 % elsewhere is pulled to the edge at those values.
    const EdgeScene scene;
    const Guide guide = scene.guide();
    image::Plane<float> mask = scene.movedMatte(5);
    for (int y = 0; y < mask.size().height; ++y) {
        for (float& v : mask.row(y)) v = 0.1f + 0.6f * v;
    }
    const image::Plane<float> out = snapped(guide, mask, 8, noiseOf(guide.l));
    EXPECT_NEAR(out.row(90)[110], 0.7f, 0.01f);
    EXPECT_NEAR(out.row(90)[159], 0.7f, 0.03f) << "just within the true edge";
    EXPECT_NEAR(out.row(90)[171], 0.1f, 0.03f) << "just beyond it, within the drawn one";
    EXPECT_NEAR(out.row(10)[230], 0.1f, 0.01f);
}

// A mask whose edge the photo knows nothing of: the picture's edge lies 20 px off.
TEST(Snap, MovesNoFartherThanAsked) {
    const EdgeScene scene;
    const Guide guide = scene.guide();
    for (const double most : {1.0, 4.0}) {
        const image::Plane<float> before = scene.movedMatte(7),
                                  after = snapped(guide, before, 12, noiseOf(guide.l), most);
        const image::Plane<float> distance = distanceToEdge(sidesOf(before), 40);
        scene.forEach([&](int x, int y) {
            const auto i = static_cast<std::size_t>(x);
            if (double{distance.row(y)[i]} > most + 2) {
                EXPECT_EQ(after.row(y)[i] > 0.5f, before.row(y)[i] > 0.5f) << x << ", " << y << " at " << most;
            }
        });
    }
}

TEST(Snap, ASmallDiscOnAnEvenGroundIsNotEmptied) {
    EdgeScene scene;
    const Guide guide = scene.guide();
    for (const double radius : {6.0, 10.0, 14.0}) {
        image::Plane<float> disc(scene.size);
        scene.forEach([&](int x, int y) {
            const double outside = std::hypot(x + 0.5 - 215, y + 0.5 - 25) - radius;
            disc.row(y)[static_cast<std::size_t>(x)] = static_cast<float>(std::clamp(0.5 - outside, 0.0, 1.0));
        });
        for (const double band : {8.0, 20.0, 35.0}) {
            const image::Plane<float> out = snapped(guide, disc, band, noiseOf(guide.l));
            double was = 0, is = 0;
            scene.forEach([&](int x, int y) {
                was += double{disc.row(y)[static_cast<std::size_t>(x)]};
                is += double{out.row(y)[static_cast<std::size_t>(x)]};
            });
            EXPECT_GT(is, 0.25 * was) << "radius " << radius << ", band " << band;
        }
    }
}

TEST(KeepNear, RestoresWhatWouldBeLostAndOnlyThat) {
    Sides was({60, 30}), moved({60, 30});
    for (int y = 0; y < 30; ++y) {
        for (int x = 0; x < 60; ++x) {
            const auto i = static_cast<std::size_t>(x);
            const bool left = std::hypot(x - 15, y - 15) < 6, right = std::hypot(x - 45, y - 15) < 6;
            was.row(y)[i] = left || right ? Side::inside : Side::outside;
            moved.row(y)[i] = std::hypot(x - 45, y - 15) < 7 ? Side::inside : Side::outside;  // the left one is gone
        }
    }
    EXPECT_TRUE(keepNear(was, 3, moved));
    EXPECT_EQ(moved.row(15)[15], Side::inside);
    EXPECT_EQ(moved.row(15)[51], Side::inside) << "one pixel farther, as it was moved";
    EXPECT_FALSE(keepNear(was, 3, moved));
}

TEST(Matte, HasTheSoftnessOfTheEdge) {
    for (const double width : {1.0, 14.0}) {
        EdgeScene scene;
        scene.softPx = width;
        scene.grain = 0.004;
        const image::Plane<float> matte = matteOf(scene.guide(), sidesOf(scene.matte())).coverage;
        double wrong = 0, count = 0;
        scene.forEach([&](int x, int y) {
            if (std::abs(scene.outside(x + 0.5, y + 0.5)) > 8) return;
            wrong += std::abs(double{matte.row(y)[static_cast<std::size_t>(x)]} - scene.matteAt(x + 0.5, y + 0.5));
            ++count;
        });
        EXPECT_LT(wrong / count, width > 5 ? 0.05 : 0.01) << width;
        const auto passage = [&](auto value) {  // pixels on the way from full to none, along a row
            int between = 0;
            for (int x = 120; x < 200; ++x) between += value(x) > 0.1 && value(x) < 0.9 ? 1 : 0;
            return between;
        };
        const int found = passage([&](int x) { return double{matte.row(90)[static_cast<std::size_t>(x)]}; });
        const int true_ = passage([&](int x) { return scene.matteAt(x + 0.5, 90.5); });
        EXPECT_NEAR(found, true_, 3) << width;
    }
}

TEST(ColourCut, FillsOutToTheEdgeFromASmallSeed) {
    const EdgeScene scene;
    const Guide guide = scene.guide();
    image::Plane<Sure> sure(scene.size);
    Sides sides(scene.size);
    scene.forEach([&](int x, int y) {
        const auto i = static_cast<std::size_t>(x);
        const bool seed = std::abs(x - 110) < 12 && std::abs(y - 90) < 5, border = x < 12 || y < 12;
        sure.row(y)[i] = seed ? Sure::inside : border ? Sure::outside : Sure::no;
        sides.row(y)[i] = seed ? Side::inside : border ? Side::outside : Side::unknown;
    });
    const GridCut grid = gridAlongEdges(guide);
    for (int round = 0; round < 3; ++round) cutAlongEdges(grid, sure, evidence(guide, sides, noiseOf(guide.l)), sides);
    int wrong = 0;
    scene.forEach([&](int x, int y) {
        const double d = scene.outside(x + 0.5, y + 0.5);
        if (std::abs(d) > 1.5) wrong += (sides.row(y)[static_cast<std::size_t>(x)] == Side::inside) != (d < 0);
    });
    EXPECT_LT(wrong, 20);
}

TEST(ColourCut, NearnessTellsApartWhatAnEdgeParts) {
    // Two discs of one colour: the one that was seeded inside is near it, the other near what was seeded outside.
    EdgeScene scene;
    scene.outside = [](double x, double y) {
        return std::min(std::hypot(x - 70, y - 90) - 40, std::hypot(x - 180, y - 90) - 40);
    };
    Sides sides(scene.size);
    scene.forEach([&](int x, int y) {
        const bool one = std::hypot(x - 70, y - 90) < 6, other = std::hypot(x - 180, y - 90) < 6;
        sides.row(y)[static_cast<std::size_t>(x)] = one ? Side::inside : other ? Side::outside : Side::unknown;
    });
    const image::Plane<float> near = nearness(scene.guide(), sides, 0.005);
    EXPECT_GT(near.row(110)[70], 2);
    EXPECT_LT(near.row(110)[180], -2);
    EXPECT_NEAR(near.row(10)[125], 0, 0.5) << "the ground is as far from both";
}

// Where the best cut is not the only one, either may be taken: of a few pixels that is borne.
TEST(Snap, OfAMirroredSceneIsMirrored) {
    EdgeScene scene;
    scene.grain = 0.03;
    const Guide guide = scene.guide();
    const double noise = noiseOf(guide.l);
    const image::Plane<float> mask = scene.movedMatte(5), there = snapped(guide, mask, 8, noise);
    for (const tests::Mirror mirror : {tests::Mirror::across, tests::Mirror::upsideDown}) {
        const image::Plane<float> back =
            tests::mirrored(snapped(tests::mirrored(guide, mirror), tests::mirrored(mask, mirror), 8, noise), mirror);
        double off = 0, all = 0;
        int far = 0;
        scene.forEach([&](int x, int y) {
            const auto i = static_cast<std::size_t>(x);
            const double by = std::abs(double{back.row(y)[i]} - double{there.row(y)[i]});
            off += by;
            far += by > 0.25;
            all += double{there.row(y)[i]};
        });
        EXPECT_LT(off / all, 0.001);
        EXPECT_LE(far, 8);
    }
}

}  // namespace dimhem::edge
