#include "core/mask/brush.h"

#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>
#include <random>

#include "tests/support/plain_store.h"

namespace dimhem::mask {

namespace {

using tests::at;
using tests::PlainStore;
using tests::same;

constexpr Area whole{{0, 0, 200, 150}, 0};

StrokePtr stroke(std::vector<StrokePoint> points, BrushSettings brush = {}) {
    return Stroke::through(brush, points);
}

BrushSettings brushOf(double sizePx, double softnessPct, double strengthPct) {
    BrushSettings brush;
    brush.sizePx = sizePx;
    brush.softnessPct = softnessPct;
    brush.strengthPct = strengthPct;
    return brush;
}

CoveragePtr render(const Brush& brush, const Area& area = whole) {
    PlainStore none(false);
    return brush.over(area, none).value();
}

}  // namespace

TEST(BrushMask, NStrokesOfStrengthSGiveOneMinusOneMinusSToTheN) {
    for (const double strength : {50.0, 10.0, 3.0}) {
        std::vector<StrokePtr> strokes(12, stroke({{{100, 75}, 1}}, brushOf(60, 30, strength)));
        for (std::size_t n = 1; n <= strokes.size(); ++n) {
            const Brush brush({strokes.begin(), strokes.begin() + static_cast<std::ptrdiff_t>(n)});
            const double expected = 1 - std::pow(1 - strength / 100, static_cast<double>(n));
            EXPECT_NEAR(at(*render(brush), 100, 75) / 65535.0, expected, 2e-4) << strength << " % x " << n;
        }
    }
}

TEST(BrushMask, AHundredWeakStrokesBuildUpWithoutSteps) {
    // 3 to 4 % with a soft brush: along the rim every level of the fall must still be there, none of them doubled.
    std::vector<StrokePtr> strokes(100, stroke({{{100, 75}, 1}}, brushOf(140, 100, 3)));
    const auto coverage = render(Brush(strokes));
    int previous = at(*coverage, 100, 75);
    for (int x = 100; x < 172; ++x) {
        const int here = at(*coverage, x, 75);
        const double d = std::hypot(x + 0.5 - 100, 0.5) / 70, t = std::min(d, 1.0);
        const double expected = 1 - std::pow(1 - 0.03 * (1 - t * t * (3 - 2 * t)), 100);
        EXPECT_NEAR(here / 65535.0, expected, 0.002) << x;
        EXPECT_LE(here, previous) << x;
        EXPECT_LT(previous - here, 0.035 * 65535) << "a step at " << x;
        previous = here;
    }
}

TEST(BrushMask, AStrokeNeverLaysMoreThanItsStrengthHoweverItCrosses) {
    std::vector<StrokePoint> scribble;
    for (int i = 0; i < 40; ++i) scribble.push_back({{80.0 + 40 * (i % 2), 75}, 1});
    const Brush brush({stroke(scribble, brushOf(50, 20, 40))});
    EXPECT_EQ(at(*render(brush), 100, 75), std::lround(0.4 * 65535));
}

TEST(BrushMask, RemovingTakesAwayInProportion) {
    BrushSettings eraser = brushOf(60, 0, 50);
    eraser.removes = true;
    const Brush brush({stroke({{{100, 75}, 1}}, brushOf(80, 0, 100)), stroke({{{100, 75}, 1}}, eraser)});
    const auto coverage = render(brush);
    EXPECT_NEAR(at(*coverage, 100, 75) / 65535.0, 0.5, 1e-4);
    EXPECT_EQ(at(*coverage, 135, 75), 65535);  // inside the first, outside the second
}

TEST(BrushMask, SoftnessZeroIsAnAntiAliasedDisc) {
    const Brush brush({stroke({{{100, 75}, 1}}, brushOf(80, 0, 100))});
    const auto coverage = render(brush);
    double area = 0;
    for (int y = 0; y < 150; ++y) {
        for (int x = 0; x < 200; ++x) {
            const double d = std::hypot(x + 0.5 - 100, y + 0.5 - 75);
            if (d < 39.4) {
                EXPECT_EQ(at(*coverage, x, y), 65535);
            }
            if (d > 40.6) {
                EXPECT_EQ(at(*coverage, x, y), 0);
            }
            area += at(*coverage, x, y) / 65535.0;
        }
    }
    EXPECT_NEAR(area, 3.14159265 * 40 * 40, 12);
}

TEST(BrushMask, SpacingLeavesNoScallopsAbovePercent) {
    // Along a straight stroke every column across its middle must show the same profile.
    const Brush brush({stroke({{{20, 75}, 1}, {{180, 75}, 1}}, brushOf(60, 100, 100))});
    const auto coverage = render(brush);
    for (int y = 46; y < 105; ++y) {
        int low = 65535, high = 0;
        for (int x = 60; x < 140; ++x) {
            low = std::min<int>(low, at(*coverage, x, y));
            high = std::max<int>(high, at(*coverage, x, y));
        }
        EXPECT_LT(high - low, 0.01 * 65535) << "row " << y;
    }
}

TEST(BrushMask, PaintingOnFromWhereItStoodIsTheSameAsFromTheBeginning) {
    PlainStore store;
    StrokePtr growing = std::make_shared<Stroke>(brushOf(40, 60, 70), StrokePoint{{20, 20}, 1});
    const StrokePtr below = stroke({{{10, 140}, 1}, {{190, 10}, 1}}, brushOf(30, 50, 50));
    for (int i = 0; i < 60; ++i) {
        growing = growing->extended({{20.0 + i * 2.7, 75 + 50 * std::sin(i * 0.4)}, 0.3 + 0.01 * i});
        const Brush brush({below, growing});
        const auto incremental = brush.over(whole, store).value();
        EXPECT_TRUE(same(*incremental, *render(brush), whole.rect.size())) << "after point " << i;
    }
}

TEST(BrushMask, TilesTogetherAreTheWhole) {
    const Brush brush({stroke({{{30, 30}, 1}, {{150, 120}, 1}}, brushOf(50, 40, 80)),
                       stroke({{{150, 30}, 1}, {{40, 120}, 1}}, brushOf(25, 90, 60))});
    const auto all = render(brush);
    for (const int tile : {16, 33, 64}) {
        for (int y = 0; y < 150; y += tile) {
            for (int x = 0; x < 200; x += tile) {
                const Area area{base::intersected({x, y, x + tile, y + tile}, whole.rect), 0};
                const auto part = render(brush, area);
                for (int ty = area.rect.y0; ty < area.rect.y1; ++ty) {
                    for (int tx = area.rect.x0; tx < area.rect.x1; ++tx) {
                        ASSERT_EQ(at(*part, tx - area.rect.x0, ty - area.rect.y0), at(*all, tx, ty)) << tx << " " << ty;
                    }
                }
            }
        }
    }
}

TEST(BrushMask, CoarseLevelsAgreeWithTheFineOneAveraged) {
    const Brush brush({stroke({{{40, 40}, 1}, {{150, 110}, 1}}, brushOf(50, 50, 80))});
    const auto fine = render(brush);
    const Area coarse{{0, 0, 50, 38}, 2};
    const auto small = render(brush, coarse);
    double worst = 0;
    for (int y = 0; y < 37; ++y) {
        for (int x = 0; x < 50; ++x) {
            double sum = 0;
            for (int i = 0; i < 16; ++i) sum += at(*fine, 4 * x + i % 4, 4 * y + i / 4);
            worst = std::max(worst, std::abs(sum / 16 - at(*small, x, y)) / 65535);
        }
    }
    EXPECT_LT(worst, 0.03);
}

TEST(BrushMask, KeyChangesOnlyWhereTheStrokeTouches) {
    const Brush before({stroke({{{30, 30}, 1}}, brushOf(20, 0, 100))});
    const auto after = before.withStroke(stroke({{{150, 100}, 1}}, brushOf(20, 0, 100)));
    const Area near{{128, 64, 192, 128}, 0}, far{{0, 0, 64, 64}, 0};
    PlainStore store;
    EXPECT_EQ(before.over(far, store).key(), after->over(far, store).key());
    EXPECT_NE(before.over(near, store).key(), after->over(near, store).key());
}

TEST(BrushMask, AddingStrokesOneByOneIsTheSameAsAllAtOnce) {
    std::vector<StrokePtr> strokes;
    auto grown = std::make_shared<const Brush>();
    PlainStore store;
    for (int i = 0; i < 6; ++i) {
        strokes.push_back(
            stroke({{{30.0 + 25 * i, 40.0 + 10 * i}, 1}, {{60.0 + 20 * i, 100}, 1}}, brushOf(40, 60, 30)));
        grown = grown->withStroke(stroke({{{1, 1}, 1}}))->withLast(strokes.back());
        EXPECT_EQ(grown->over(whole, store).key(), Brush(strokes).over(whole, store).key());
        EXPECT_TRUE(same(*grown->over(whole, store).value(), *render(Brush(strokes)), whole.rect.size()));
    }
}

TEST(BrushMask, UntouchedAreasAreEmptyWithoutMemory) {
    const Brush brush({stroke({{{30, 30}, 1}}, brushOf(20, 0, 100))});
    EXPECT_TRUE(render(brush, {{100, 100, 164, 164}, 0})->isEmpty());
}

TEST(Stroke, PressureDrivesSizeAndStrengthByItsShare) {
    BrushSettings brush = brushOf(100, 0, 100);
    brush.pressureSizePct = 50;
    brush.pressureStrengthPct = 100;
    const Stroke light(brush, {{100, 75}, 0.4});
    EXPECT_FLOAT_EQ(light.dabs()[0].radius, 35);  // 50 * (1 - 0.5 * 0.6)
    EXPECT_FLOAT_EQ(light.dabs()[0].ceiling, 0.4f);
}

TEST(Stroke, DabsKeepTheirSpacingAcrossPoints) {
    std::vector<StrokePoint> points;
    for (int i = 0; i <= 100; ++i) points.push_back({{i * 1.7, 0}, 1});
    const StrokePtr s = stroke(points, brushOf(100, 50, 100));  // spacing 5 px
    for (std::size_t i = 1; i < s->dabs().size(); ++i) EXPECT_NEAR(s->dabs()[i].x - s->dabs()[i - 1].x, 5, 1e-3);
}

// Blocks of dabs that are far away are passed over: the outcome is that of looking at each dab.
TEST(Stroke, FindsTheLastDabThatTouchesAPlace) {
    std::mt19937 random(5);
    const auto at = [&] {
        return base::Point{static_cast<double>(random() % 3000), static_cast<double>(random() % 2000)};
    };
    StrokePtr s = std::make_shared<const Stroke>(brushOf(30, 50, 100), StrokePoint{at(), 1});
    for (int i = 0; i < 40; ++i) {
        s = s->extended({at(), 1});
        for (int j = 0; j < 20; ++j) {
            const base::Point p = at();
            const int x = static_cast<int>(p.x), y = static_cast<int>(p.y);
            const base::Rect rect{x, y, x + 1 + static_cast<int>(random() % 200), y + 64};
            std::size_t expected = s->dabs().size();
            while (expected > 0 && !Stroke::touches(s->dabs()[expected - 1], rect)) --expected;
            ASSERT_EQ(s->dabsUpToLastTouching(rect), expected);
        }
    }
    ASSERT_GT(s->dabs().size(), 10000u);
}

TEST(Stroke, GrowingOneInTwoWaysLeavesItAsItWas) {
    StrokePtr common = std::make_shared<const Stroke>(brushOf(100, 50, 100), StrokePoint{{0, 0}, 1});
    for (int i = 1; i < 500; ++i) common = common->extended({{i * 3.0, 0}, 1});
    const std::size_t dabs = common->dabs().size();
    const auto json = common->toJson();
    const StrokePtr up = common->extended({{1500, 300}, 1}), down = common->extended({{1500, -300}, 1});
    EXPECT_EQ(common->dabs().size(), dabs);
    EXPECT_EQ(common->toJson(), json);
    EXPECT_GT(up->dabs().back().y, 250);
    EXPECT_LT(down->dabs().back().y, -250);
    EXPECT_NE(up->chain(dabs + 1), down->chain(dabs + 1));
    EXPECT_EQ(up->chain(dabs), down->chain(dabs));
}

TEST(Stroke, ComesBackFromJsonAsItWas) {
    BrushSettings brush = brushOf(33.5, 12, 7);
    brush.removes = true;
    const StrokePtr s = stroke({{{1.25, -40}, 0.5}, {{300, 20.75}, 1}}, brush);
    const auto back = Stroke::fromJson(s->toJson());
    ASSERT_TRUE(back);
    EXPECT_EQ((*back)->toJson(), s->toJson());
    EXPECT_EQ((*back)->brush(), brush);
}

TEST(Stroke, WrongJsonIsRefusedWithASentence) {
    for (const char* text :
         {"7", "{}", R"({"points": []})", R"({"points": [[1]]})", R"({"points": [["a", 2]]})",
          R"({"points": [[1e9, 2]]})", R"({"points": [[1, 2, 3]]})", R"({"points": [[1, 2]], "size": -4})",
          R"({"points": [[1, 2]], "size": "big"})", R"({"points": [[1, 2]], "removes": 1})"}) {
        const auto result = Stroke::fromJson(nlohmann::json::parse(text));
        ASSERT_FALSE(result) << text;
        EXPECT_EQ(result.error().code, base::ErrorCode::invalidValue);
        EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
    }
}

// However finely a hand's way comes in, the dabs lie where they would lie on the straight way as a whole.
TEST(BrushMask, AStraightStrokeInPiecesIsThatOfTwoPoints) {
    for (const auto& [from, to] :
         {std::pair{base::Point{20, 75}, base::Point{183.7, 75}}, {{30, 20}, {120.3, 140.9}}}) {
        for (const double sizePx : {8.0, 40.0, 90.0}) {
            for (const double spacing : {3.0, 5.0, 25.0, 60.0}) {
                BrushSettings brush = brushOf(sizePx, 60, 80);
                brush.spacingPct = spacing;
                std::vector<StrokePoint> pieces;
                const base::Point way = to - from;
                const double length = std::hypot(way.x, way.y);
                for (double at = 0; at < length; at += 5) pieces.push_back({from + way * (at / length), 1});
                pieces.push_back({to, 1});
                const StrokePtr one = stroke({{from, 1}, {to, 1}}, brush), many = stroke(pieces, brush);
                ASSERT_EQ(one->dabs().size(), many->dabs().size()) << sizePx << " " << spacing;
                for (std::size_t i = 0; i < one->dabs().size(); ++i) {
                    EXPECT_NEAR(one->dabs()[i].x, many->dabs()[i].x, 1e-6) << sizePx << " " << spacing;
                    EXPECT_NEAR(one->dabs()[i].y, many->dabs()[i].y, 1e-6) << sizePx << " " << spacing;
                }
                const auto a = render(Brush({one})), b = render(Brush({many}));
                int worst = 0;
                for (int y = 0; y < 150; ++y) {
                    for (int x = 0; x < 200; ++x) worst = std::max(worst, std::abs(at(*a, x, y) - at(*b, x, y)));
                }
                EXPECT_LE(worst, 2) << sizePx << " " << spacing;
            }
        }
    }
}

// A brush set to clone that has not been told from where, used to take away: what it leaves can be saved and read.
TEST(BrushMask, AStrokeThatRemovesBringsNothing) {
    BrushSettings brush = brushOf(40, 50, 100);
    brush.removes = true;
    brush.brings.kind = BringKind::clone;
    const Brush made({stroke({{{20, 20}, 1}}), stroke({{{30, 30}, 1}, {{60, 40}, 1}}, brush)});
    EXPECT_EQ(made.strokes()[1]->brush().brings.kind, BringKind::nothing);
    nlohmann::json json;
    made.toJson(json);
    const auto back = Brush::kindInfo.fromJson(json);
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(std::dynamic_pointer_cast<const Brush>(*back)->strokes().size(), 2u);
}

}  // namespace dimhem::mask
