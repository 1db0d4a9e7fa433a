#include "core/check/hem.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "tests/support/edge_scene.h"
#include "tests/support/mirrored.h"

namespace dimhem::check {

namespace {

using tests::EdgeScene;

// The scene with the check's margin about it, so that a block is the whole of what is looked at.
EdgeScene scene() {
    EdgeScene made;
    made.size = {360, 320};
    made.outside = [](double x, double y) { return std::hypot(x - 180, y - 160) - 70 - 4 * std::sin(y / 9); };
    return made;
}

struct Measured {
    double spillPct, shortPct, unmeasuredPct;
};

// `solved`: the mask solved along its edge; by default there was nothing to solve.
Measured measure(const EdgeScene& made, const image::Plane<float>& mask, const image::Plane<float>& solved) {
    const edge::Guide guide = made.guide();
    const HemBlock block = hemOf(guide, mask, solved, edge::noiseOf(guide.l));
    double all = 0;
    made.forEach([&](int x, int y) { all += double{mask.row(y)[static_cast<std::size_t>(x)]}; });
    const double whole = all - block.spill + block.shortfall;
    return {100 * block.spill / whole, 100 * block.shortfall / whole,
            block.edge > 0 ? 100 * block.unmeasured / block.edge : 0};
}

Measured measure(const EdgeScene& made, const image::Plane<float>& mask) {
    return measure(made, mask, mask);
}

void stamp(image::Plane<float>& mask, double cx, double cy, double radius, float value) {
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) {
            if (std::hypot(x + 0.5 - cx, y + 0.5 - cy) < radius) mask.row(y)[static_cast<std::size_t>(x)] = value;
        }
    }
}

std::vector<Finding> spotsOf(const EdgeScene& made, const image::Plane<float>& mask, FindingKind kind) {
    const edge::Guide guide = made.guide();
    return spots(kind, mask, [&](const base::Rect& rect) {
        return edge::Guide{image::cropped(guide.l, rect), image::cropped(guide.a, rect), image::cropped(guide.b, rect)};
    });
}

bool isWithin(const std::vector<base::Point>& outline, base::Point p) {  // even-odd
    bool in = false;
    for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++) {
        const base::Point &a = outline[i], &b = outline[j];
        if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x) in = !in;
    }
    return in;
}

}  // namespace

TEST(Hem, OfARightMaskIsNextToNothing) {
    const EdgeScene made = scene();
    const Measured m = measure(made, made.matte());
    EXPECT_LT(m.spillPct, 0.4);
    EXPECT_LT(m.shortPct, 0.4);
    EXPECT_LT(m.unmeasuredPct, 5);
}

TEST(Hem, SaysWhatAMovedMaskReallySpillsOrIsShort) {
    const EdgeScene made = scene();
    for (const double off : {-6.0, -3.0, 2.0, 4.0, 6.0}) {
        const image::Plane<float> mask = made.movedMatte(off);
        const tests::HemError truth = tests::hemError(mask, made.matte());
        const Measured said = measure(made, mask);
        EXPECT_NEAR(said.spillPct, truth.spillPct, 0.4 + 0.05 * truth.spillPct) << off;
        EXPECT_NEAR(said.shortPct, truth.shortPct, 0.4 + 0.05 * truth.shortPct) << off;
    }
}

TEST(Hem, DifferenceIsWhereTheMaskIsWrong) {
    const EdgeScene made = scene();
    image::Plane<float> mask = made.matte();
    stamp(mask, 180 + 72, 160, 6, 1);  // a leak over the right edge
    const edge::Guide guide = made.guide();
    const HemBlock block = hemOf(guide, mask, mask, edge::noiseOf(guide.l));
    const auto at = [&](int x, int y) {
        return int{block.difference.row(y - hemMarginPx)[static_cast<std::size_t>(x - hemMarginPx)]};
    };
    EXPECT_GT(at(256, 160), 80);
    EXPECT_NEAR(at(180, 160), 0, 2);
    EXPECT_NEAR(at(180 - 90, 160), 0, 2);
    const auto found = stretches(FindingKind::spill, block.difference, 20);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_NEAR(found[0].bounds.x1 + hemMarginPx, 258, 3);
    EXPECT_TRUE(stretches(FindingKind::shortfall, block.difference, 20).empty());
}

TEST(Hem, AMaskWithoutAnEdgeHasNothingToMeasure) {
    const EdgeScene made = scene();
    const edge::Guide guide = made.guide();
    for (const float value : {0.0f, 1.0f}) {
        const image::Plane<float> mask = made.plane([=](double, double) { return value; });
        const HemBlock block = hemOf(guide, mask, mask, 0.01);
        EXPECT_EQ(block.edge, 0);
        EXPECT_EQ(block.spill + block.shortfall, 0);
    }
}

TEST(Hem, AGradientIsNotMeasured) {
    const EdgeScene made = scene();
    const image::Plane<float> gradient = made.plane([](double x, double) { return std::clamp(x / 360, 0.0, 1.0); });
    const HemBlock block = hemOf(made.guide(), gradient, gradient, 0.01);
    EXPECT_GT(block.edge, 0);
    EXPECT_EQ(block.unmeasured, block.edge);
    EXPECT_EQ(block.spill + block.shortfall, 0);
}

EdgeScene rails() {
    EdgeScene made = scene();
    made.outside = [](double x, double y) {
        const double beyond = std::max(std::abs(x - 180) - 115, std::abs(y - 160) - 95);
        return std::max(beyond, std::abs(std::fmod(x + 0.3 * y, 30) - 15) - 1.2);
    };
    return made;
}

TEST(Hem, ThinThingsThatWereSolvedAlikeAreRight) {
    const Measured m = measure(rails(), rails().matte());
    EXPECT_LT(m.spillPct, 0.5) << "the cut would do away with all of them";
    EXPECT_LT(m.shortPct, 0.5);
    EXPECT_EQ(m.unmeasuredPct, 0);
}

TEST(Hem, ThinThingsDrawnTooFullSpillByWhatWasSolved) {
    const EdgeScene made = rails();
    const image::Plane<float> full = made.movedMatte(2), right = made.matte();
    const tests::HemError truth = tests::hemError(full, right);
    const Measured said = measure(made, full, right);
    EXPECT_NEAR(said.spillPct, truth.spillPct, 0.1 * truth.spillPct);
    EXPECT_LT(said.unmeasuredPct, 10);
}

TEST(Hem, ASolutionThatLiesWorseOnThePhotoIsNotBelieved) {
    const EdgeScene made = rails();
    const image::Plane<float> shifted = made.plane(
        [&](double x, double y) { return std::clamp(0.5 - std::abs(std::fmod(x + 0.3 * y, 30) - 9) + 1.2, 0.0, 1.0); });
    const Measured m = measure(made, made.matte(), shifted);
    EXPECT_LT(m.spillPct + m.shortPct, 5);
    EXPECT_GT(m.unmeasuredPct, 90) << "and then there is nothing to go by";
}

TEST(Hem, APassageOutOfFocusIsMeasuredAgainstASoftOne) {
    EdgeScene made = scene();
    made.softPx = 14;
    const image::Plane<float> soft = made.matte();
    EdgeScene sharp = scene();
    const image::Plane<float> hard = sharp.matte();
    const tests::HemError truth = tests::hemError(hard, soft);
    const Measured said = measure(made, hard, soft);
    EXPECT_NEAR(said.spillPct, truth.spillPct, 0.25 * truth.spillPct);
    EXPECT_NEAR(said.shortPct, truth.shortPct, 0.25 * truth.shortPct);
}

TEST(Spots, GapsAndSpecksAreFoundWithALineRoundThem) {
    const EdgeScene made = scene();
    image::Plane<float> mask = made.matte();
    const base::Point gaps[] = {{160, 140}, {200, 180}, {185, 120}}, specks[] = {{60, 60}, {300, 250}};
    for (const base::Point& p : gaps) stamp(mask, p.x, p.y, 4, 0);
    for (const base::Point& p : specks) stamp(mask, p.x, p.y, 3, 1);
    const auto check = [&](FindingKind kind, std::span<const base::Point> places) {
        const std::vector<Finding> found = spotsOf(made, mask, kind);
        ASSERT_EQ(found.size(), places.size());
        for (const base::Point& p : places) {
            const auto round =
                std::find_if(found.begin(), found.end(), [&](const Finding& f) { return isWithin(f.outline, p); });
            ASSERT_NE(round, found.end());
            EXPECT_EQ(round->kind, kind);
            EXPECT_TRUE(isWithin(round->outline, p + base::Point{0, 4.5})) << "its rim is taken in";
        }
    };
    check(FindingKind::gap, gaps);
    check(FindingKind::speck, specks);
}

TEST(Spots, WhatLooksUnlikeWhatIsAboutItWasMeant) {
    // A window in the subject, of the backdrop's colour: leaving it out is right.
    EdgeScene made = scene();
    const auto body = made.outside;
    made.outside = [body](double x, double y) { return std::max(body(x, y), 6 - std::hypot(x - 180, y - 160)); };
    EXPECT_TRUE(spotsOf(made, made.matte(), FindingKind::gap).empty());
}

TEST(Spots, DustAndWhatIsLargeAreLeftAlone) {
    const EdgeScene made = scene();
    image::Plane<float> mask = made.matte();
    mask.row(160)[180] = 0;        // one pixel
    stamp(mask, 180, 130, 16, 0);  // more than 0.4 % of the picture
    stamp(mask, 0, 310, 6, 1);     // at the border
    EXPECT_TRUE(spotsOf(made, mask, FindingKind::gap).empty());
    EXPECT_TRUE(spotsOf(made, mask, FindingKind::speck).empty());
}

TEST(Crowding, IsTheShareOfEdgePixelsAbout) {
    image::Plane<float> mask({200, 100});
    for (int y = 0; y < 100; ++y) {
        for (int x = 0; x < 200; ++x) mask.row(y)[static_cast<std::size_t>(x)] = x >= 100 && x % 4 < 2 ? 1.0f : 0.0f;
    }
    const image::Plane<float> crowd = crowding(mask);
    EXPECT_EQ(crowd.row(50)[20], 0);
    EXPECT_NEAR(crowd.row(50)[155], 0.5, 0.02) << "every second pixel differs from the one before it";
}

TEST(Hem, OfAMirroredSceneIsMirrored) {
    const EdgeScene made = scene();
    const edge::Guide guide = made.guide();
    const image::Plane<float> mask = made.movedMatte(4);
    const double noise = edge::noiseOf(guide.l);
    const HemBlock there = hemOf(guide, mask, mask, noise);
    ASSERT_GT(there.spill, 100);
    for (const tests::Mirror mirror : {tests::Mirror::across, tests::Mirror::upsideDown}) {
        const image::Plane<float> other = tests::mirrored(mask, mirror);
        const HemBlock back = hemOf(tests::mirrored(guide, mirror), other, other, noise);
        EXPECT_NEAR(back.spill, there.spill, 0.01 * there.spill);
        EXPECT_NEAR(back.shortfall, there.shortfall, 0.01 * there.spill);
        EXPECT_NEAR(back.edge, there.edge, 0.01 * there.edge);
        const auto difference = tests::mirrored(back.difference, mirror);
        int far = 0;
        for (int y = 0; y < difference.size().height; ++y) {
            for (std::size_t x = 0; x < static_cast<std::size_t>(difference.size().width); ++x)
                far += std::abs(difference.row(y)[x] - there.difference.row(y)[x]) > 25;
        }
        EXPECT_LE(far, 8);
    }
}

}  // namespace dimhem::check
