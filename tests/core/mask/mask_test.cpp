#include "core/mask/mask.h"

#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/kernel/coverage_rows.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/registry.h"
#include "tests/support/plain_store.h"

namespace dimhem::mask {

namespace {

using tests::at;
using tests::PlainStore;

constexpr Area area{{0, 0, 96, 64}, 0};

PartPtr part(ShapePtr shape, Combine combine = Combine::add, bool flipped = false, double opacityPct = 100) {
    return std::make_shared<const Part>(Part{1, "part", combine, flipped, true, opacityPct, std::move(shape)});
}

ShapePtr disc(double x, double y, double sizePx) {
    BrushSettings brush;
    brush.sizePx = sizePx;
    const StrokePoint points[] = {{{x, y}, 1}};
    return std::make_shared<Brush>(std::vector<StrokePtr>{Stroke::through(brush, points)});
}

ShapePtr fade() {
    return std::make_shared<LinearGradient>(base::Point{10, 0}, base::Point{90, 0}, GradientProfile::linear);
}

base::ContentKey keyOf(const Mask& mask) {
    PlainStore store;
    return mask::over(mask, area, store).key();
}

CoveragePtr render(const Mask& mask) {
    PlainStore store;
    return mask::over(mask, area, store).value();
}

}  // namespace

// Where every part is even, the mask is told without rendering; it is what rendering would come to.
TEST(MaskRender, PartsThatAreEvenAreCombinedAsOthersAre) {
    constexpr Area far{{500, 500, 564, 540}, 0};
    const ShapePtr spot = disc(40, 30, 20);
    const auto at500 = [&](const Mask& mask) {
        PlainStore store;
        const auto coverage = mask::over(mask, far, store).value();
        EXPECT_TRUE(coverage->isConstant());
        return at(*coverage, 3, 3);
    };
    EXPECT_EQ(at500({.parts = {part(spot)}}), 0);
    EXPECT_EQ(at500({.parts = {part(spot, Combine::add, true)}}), 65535);
    EXPECT_EQ(at500({.parts = {part(spot, Combine::add, true, 40)}}), std::lround(0.4 * 65535));
    EXPECT_EQ(at500({.startsEverywhere = true, .parts = {part(spot, Combine::subtract, true)}}), 0);
    EXPECT_EQ(at500({.startsEverywhere = true, .parts = {part(spot, Combine::overlap)}}), 0);
}

namespace {

// A range that follows from the place alone.
ShapePtr spot() {
    return disc(50, 30, 60);
}

PartPtr limited(ShapePtr shape, ShapePtr limit, Combine combine, bool flipped, double opacityPct) {
    return std::make_shared<const Part>(
        Part{1, "part", combine, flipped, true, opacityPct, std::move(shape), std::move(limit)});
}

}  // namespace

// A part kept to a range is that part overlapped with the range, in a mask of its own, whatever it is combined with.
TEST(MaskLimit, IsTheProductOfPartAndRange) {
    for (const Combine combine : {Combine::add, Combine::subtract, Combine::overlap}) {
        for (const bool flipped : {false, true}) {
            const auto alone =
                render({.parts = {part(fade(), Combine::add, flipped, 70), part(spot(), Combine::overlap)}});
            const auto base = render({.parts = {part(disc(30, 30, 50))}});
            const auto whole =
                render({.parts = {part(disc(30, 30, 50)), limited(fade(), spot(), combine, flipped, 70)}});
            for (int y = 0; y < 64; y += 3) {
                for (int x = 0; x < 96; x += 5) {
                    const auto a = at(*base, x, y), b = at(*alone, x, y);
                    const auto expected = combine == Combine::add        ? kernel::coverageAdd(a, b)
                                          : combine == Combine::subtract ? kernel::coverageSubtract(a, b)
                                                                         : kernel::coverageProduct(a, b);
                    ASSERT_EQ(at(*whole, x, y), expected) << x << " " << y;
                }
            }
        }
    }
}

TEST(MaskLimit, IsToldAtOnceWhereBothAre) {
    constexpr Area far{{500, 500, 564, 540}, 0};
    const auto coverage = [&](PartPtr one) {
        PlainStore store;
        const Mask mask{.parts = {std::move(one)}};
        return mask::over(mask, far, store).value();
    };
    EXPECT_TRUE(coverage(limited(disc(40, 30, 20), fade(), Combine::add, false, 100))->isEmpty());
    EXPECT_TRUE(coverage(limited(disc(40, 30, 20), spot(), Combine::add, true, 100))->isEmpty());
    EXPECT_EQ(coverage(limited(disc(40, 30, 20), nullptr, Combine::add, true, 100))->value(), 65535);
}

TEST(MaskLimit, HasItsShareInKeyAndWeight) {
    const Mask free{.parts = {part(fade())}}, kept{.parts = {limited(fade(), spot(), Combine::add, false, 100)}},
        other{.parts = {limited(fade(), disc(20, 20, 30), Combine::add, false, 100)}};
    EXPECT_NE(keyOf(free), keyOf(kept));
    EXPECT_NE(keyOf(kept), keyOf(other));
    EXPECT_EQ(weightOf(kept), weightOf(free) + spot()->weight());
}

TEST(LinearGradientMask, FollowsItsFormula) {
    const base::Point full{20, 10}, none{70, 50};
    for (const GradientProfile profile : {GradientProfile::linear, GradientProfile::smooth}) {
        PlainStore store;
        const auto coverage = LinearGradient(full, none, profile).over(area, store).value();
        for (int y = 0; y < 64; ++y) {
            for (int x = 0; x < 96; ++x) {
                const double t =
                    std::clamp(((x + 0.5 - 20) * 50 + (y + 0.5 - 10) * 40) / (50.0 * 50 + 40 * 40), 0.0, 1.0);
                const double expected = profile == GradientProfile::linear ? 1 - t : 1 - t * t * (3 - 2 * t);
                ASSERT_NEAR(at(*coverage, x, y) / 65535.0, expected, 1e-5) << x << " " << y;
            }
        }
    }
}

TEST(LinearGradientMask, FarFromItsLinesIsConstant) {
    PlainStore store;
    const LinearGradient gradient({1000, 0}, {2000, 0});
    EXPECT_EQ(gradient.over(area, store).value()->value(), 65535);
    EXPECT_TRUE(gradient.over({{3000, 0, 3064, 64}, 0}, store).value()->isEmpty());
}

TEST(LinearGradientMask, LevelsShowTheSamePlace) {
    PlainStore store;
    const LinearGradient gradient({0, 0}, {96, 64}, GradientProfile::linear);
    const auto fine = gradient.over(area, store).value(), coarse = gradient.over({{0, 0, 24, 16}, 2}, store).value();
    for (int y = 0; y < 16; ++y) {
        for (int x = 0; x < 24; ++x) {
            double sum = 0;
            for (int i = 0; i < 16; ++i) sum += at(*fine, 4 * x + i % 4, 4 * y + i / 4);
            EXPECT_NEAR(at(*coarse, x, y), sum / 16, 150);
        }
    }
}

TEST(LinearGradientMask, CoincidingLinesCutHard) {
    PlainStore store;
    const auto coverage = LinearGradient({30, 0}, {30, 0}).over(area, store).value();
    EXPECT_EQ(at(*coverage, 0, 0), 65535);
}

TEST(Mask, StartsNowhereOrEverywhere) {
    EXPECT_TRUE(render({})->isEmpty());
    Mask full;
    full.startsEverywhere = true;
    EXPECT_EQ(render(full)->value(), 65535);
    full.inverted = true;
    EXPECT_TRUE(render(full)->isEmpty());
}

TEST(Mask, CombinesItsPartsTopToBottom) {
    Mask mask;
    mask.parts = {part(fade()), part(disc(30, 30, 30), Combine::subtract),
                  part(disc(60, 30, 40), Combine::add, false, 50)};
    PlainStore store;
    const auto a = fade()->over(area, store).value(), b = disc(30, 30, 30)->over(area, store).value(),
               c = disc(60, 30, 40)->over(area, store).value();
    const auto out = render(mask);
    for (int y = 0; y < 64; ++y) {
        for (int x = 0; x < 96; ++x) {
            std::uint16_t expected = at(*a, x, y);
            expected = kernel::coverageSubtract(expected, at(*b, x, y));
            expected = kernel::coverageAdd(expected, kernel::coverageProduct(at(*c, x, y), 32768));
            ASSERT_EQ(at(*out, x, y), expected) << x << " " << y;
        }
    }
}

TEST(Mask, OverlapKeepsWhatBothShare) {
    Mask mask;
    mask.parts = {part(disc(30, 30, 40)), part(disc(50, 30, 40), Combine::overlap)};
    const auto out = render(mask);
    EXPECT_GT(at(*out, 40, 30), 0);
    EXPECT_EQ(at(*out, 15, 30), 0);
    EXPECT_EQ(at(*out, 66, 30), 0);
}

TEST(Mask, FlippingTwiceIsNothing) {
    Mask mask;
    mask.parts = {part(disc(30, 30, 40), Combine::add, true)};
    mask.inverted = true;
    Mask plain;
    plain.parts = {part(disc(30, 30, 40))};
    EXPECT_TRUE(tests::same(*render(mask), *render(plain), area.rect.size()));
}

TEST(Mask, PartsThatAreOffDoNotCount) {
    Mask mask;
    Part off = *part(disc(30, 30, 40));
    off.enabled = false;
    mask.parts = {std::make_shared<const Part>(off)};
    EXPECT_TRUE(render(mask)->isEmpty());
}

TEST(Mask, KeyTellsDifferentMasksApart) {
    Mask a, b;
    a.parts = {part(disc(30, 30, 40)), part(fade(), Combine::subtract)};
    b.parts = {part(disc(30, 30, 40)), part(fade(), Combine::overlap)};
    EXPECT_NE(keyOf(a), keyOf(b));
    b = a;
    EXPECT_EQ(keyOf(a), keyOf(b));
    b.inverted = true;
    EXPECT_NE(keyOf(a), keyOf(b));
}

TEST(ShapeKinds, EveryKindMakesOneThatComesBackFromJson) {
    for (const ShapeKind* kind : shapeKinds()) {
        EXPECT_EQ(findShapeKind(kind->id), kind);
        PlainStore store;
        const ShapePtr made = kind->makeFor({1200, 800});
        nlohmann::json json;
        made->toJson(json);
        const auto back = kind->fromJson(json);
        ASSERT_TRUE(back) << kind->id;
        EXPECT_EQ((*back)->over(area, store).key(), made->over(area, store).key());
    }
    EXPECT_EQ(findShapeKind("nothing"), nullptr);
}

TEST(LinearGradientMask, WrongJsonIsRefused) {
    for (const char* text : {"{}", R"({"full": [1], "none": [2, 3]})", R"({"full": [1, 2], "none": "x"})",
                             R"({"full": [1, 2], "none": [3, 4], "profile": "steep"})"}) {
        EXPECT_FALSE(LinearGradient::kindInfo.fromJson(nlohmann::json::parse(text))) << text;
    }
}

}  // namespace dimhem::mask
