// The parts beside brush and linear gradient, against slow references written out here.
#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>
#include <numbers>
#include <random>

#include "core/colour/hsl.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/mask/borrowed_mask.h"
#include "core/mask/brush.h"
#include "core/mask/colour_range.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/matte.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/mask/registry.h"
#include "tests/support/plain_store.h"

namespace dimhem::mask {

namespace {

using tests::at;
using tests::PlainStore;

constexpr Area area{{0, 0, 200, 150}, 0};

double covered(const Coverage& coverage, int x, int y) {
    return at(coverage, x, y) / 65535.0;
}

double raisedCosine(double t) {
    return t <= 0 ? 0 : t >= 1 ? 1 : 0.5 - 0.5 * std::cos(std::numbers::pi * t);
}

}  // namespace

// What a shape says of an area without looking is what it covers there, pixel by pixel; and most areas are told so.
TEST(Shapes, WhatTheyTellAtOnceIsWhatTheyCover) {
    std::mt19937 random(11);
    const auto number = [&](double from, double to) { return from + (to - from) * (random() % 10000) / 10000.0; };
    const auto place = [&] { return base::Point{number(-300, 900), number(-300, 700)}; };
    const std::function<ShapePtr()> makers[] = {
        [&] { return std::make_shared<LinearGradient>(place(), place()); },
        [&] {
            return std::make_shared<RadialGradient>(
                Oval{place(), number(0.5, 200), number(0.5, 200), number(0, 360), number(0, 100) * (random() % 2)});
        },
        [&] {
            return std::make_shared<Outline>(std::vector<base::Point>{place(), place(), place()},
                                             number(0, 60) * (random() % 2));
        },
        [&] {
            BrushSettings brush;
            brush.sizePx = number(1, 120);
            const StrokePoint points[] = {{place(), 1}, {place(), 1}};
            return std::make_shared<Brush>(std::vector<StrokePtr>{Stroke::through(brush, points)});
        },
    };
    PlainStore store(false);
    for (const auto& make : makers) {
        int told = 0;
        for (int i = 0; i < 400; ++i) {
            const ShapePtr shape = make();
            const int level = static_cast<int>(random() % 4), x = static_cast<int>(random() % 600) >> level,
                      y = static_cast<int>(random() % 400) >> level;
            const Area where{{x, y, x + 64, y + 48}, level};
            const auto uniform = shape->uniformOn(where);
            if (!uniform) continue;
            ++told;
            const auto coverage = shape->over(where, store).value();
            for (int row = 0; row < 48; ++row) {
                for (int column = 0; column < 64; ++column)
                    ASSERT_EQ(at(*coverage, column, row), *uniform) << shape->kind().id << " " << i;
            }
        }
        EXPECT_GT(told, 20);
    }
}

TEST(RadialGradientMask, FollowsItsFormula) {
    const Oval oval{{90, 70}, 60, 35, 30, 40};
    PlainStore store;
    const auto coverage = RadialGradient(oval).over(area, store).value();
    for (int y = 0; y < 150; y += 3) {
        for (int x = 0; x < 200; x += 3) {
            const double c = std::cos(std::numbers::pi / 6), s = std::sin(std::numbers::pi / 6);
            const double dx = x + 0.5 - 90, dy = y + 0.5 - 70;
            const double rho = std::hypot((dx * c + dy * s) / 60, (-dx * s + dy * c) / 35);
            const double t = std::clamp((rho - 0.6) / 0.4, 0.0, 1.0);
            ASSERT_NEAR(covered(*coverage, x, y), 1 - t * t * (3 - 2 * t), 1e-5) << x << " " << y;
        }
    }
}

TEST(RadialGradientMask, LargerThanThePhotoOrBesideItIsFine) {
    PlainStore store;
    EXPECT_EQ(RadialGradient({{100, 75}, 5000, 4000, 10, 20}).over(area, store).value()->value(), 65535);
    EXPECT_TRUE(RadialGradient({{-900, 75}, 300, 300, 0, 50}).over(area, store).value()->isEmpty());
    const auto fromTheSide = RadialGradient({{-100, 75}, 200, 200, 0, 80}).over(area, store).value();
    EXPECT_GT(covered(*fromTheSide, 0, 75), covered(*fromTheSide, 60, 75));
    EXPECT_EQ(at(*fromTheSide, 150, 75), 0);
}

TEST(RadialGradientMask, WithoutFeatherIsAnAntiAliasedOval) {
    PlainStore store;
    const auto coverage = RadialGradient({{100, 75}, 50, 40, 0, 0}).over(area, store).value();
    double sum = 0;
    for (int y = 0; y < 150; ++y) {
        for (int x = 0; x < 200; ++x) sum += covered(*coverage, x, y);
    }
    EXPECT_NEAR(sum, std::numbers::pi * 50 * 40, 25);
}

TEST(Range, IsFullBetweenTheInnerPointsAndARaisedCosineBeside) {
    const Range range{{20, 40, 60, 80}};
    for (double v = 0; v <= 100; v += 0.5) {
        const double expected = std::min(raisedCosine((v - 20) / 20), raisedCosine((80 - v) / 20));
        EXPECT_NEAR(weightOn(range, v), expected, 1e-12) << v;
    }
    EXPECT_EQ(weightOn({{20, 20, 60, 60}}, 20), 1);
    EXPECT_EQ(weightOn({{20, 20, 60, 60}}, 19.999), 0);
}

TEST(Range, GoesRoundTheCircle) {
    const Range red{{-40, -20, 20, 40}};
    for (const double turn : {-720.0, 0.0, 360.0}) {
        EXPECT_EQ(weightOnCircle(red, turn), 1);
        EXPECT_EQ(weightOnCircle(red, turn + 350), 1);
        EXPECT_NEAR(weightOnCircle(red, turn + 330), 0.5, 1e-12);
        EXPECT_EQ(weightOnCircle(red, turn + 180), 0);
    }
}

// CSS Color Module Level 4: hues of the named colours; the table is worked out from its "RGB to HSL" by hand.
TEST(HslHue, MatchesTheStandard) {
    const struct {
        double r, g, b, hue;
    } table[] = {{1, 0, 0, 0},     {1, 1, 0, 60},       {0, 1, 0, 120},      {0, 1, 1, 180},   {0, 0, 1, 240},
                 {1, 0, 1, 300},   {1, 0.5, 0, 30},     {0.5, 1, 0, 90},     {0, 0.5, 1, 210}, {0.5, 0, 1, 270},
                 {1, 0, 0.5, 330}, {0.8, 0.6, 0.4, 30}, {0.2, 0.4, 0.3, 150}};
    for (const auto& c : table) EXPECT_NEAR(colour::hslHueDeg({c.r, c.g, c.b}), c.hue, 1e-9);
}

TEST(LuminosityRangeMask, MatchesASlowReference) {
    PlainStore store;
    store.colourAt = [](double x, double y) { return colour::EncodedRgb{x / 200, y / 150, (x + y) / 400}; };
    LuminosityRangeValues values;
    values.tones.points = {15, 35, 55, 80};
    values.smoothPx = 0;
    const auto coverage = LuminosityRange(values).over(area, store).value();
    for (int y = 0; y < 150; y += 4) {
        for (int x = 0; x < 200; x += 4) {
            const double tone = colour::labFromEncoded(store.colourAt(x + 0.5, y + 0.5)).l;
            const double expected = std::min(raisedCosine((tone - 15) / 20), raisedCosine((80 - tone) / 25));
            ASSERT_NEAR(covered(*coverage, x, y), expected, 2e-3) << x << " " << y;
        }
    }
}

TEST(LuminosityRangeMask, SmoothingKeepsNoiseOutOfTheMask) {
    PlainStore store;
    // A plain tone just above the range's edge, with every other pixel just below.
    store.colourAt = [](double x, double y) {
        const double v = (static_cast<int>(x) + static_cast<int>(y)) % 2 ? 0.62 : 0.52;
        return colour::EncodedRgb{v, v, v};
    };
    LuminosityRangeValues values;
    values.tones.points = {56, 57, 100, 100};
    const auto spread = [&](double smoothPx) {
        values.smoothPx = smoothPx;
        const auto coverage = LuminosityRange(values).over(area, store).value();
        double low = 1, high = 0;
        for (int y = 40; y < 60; ++y) {
            for (int x = 40; x < 60; ++x) {
                low = std::min(low, covered(*coverage, x, y));
                high = std::max(high, covered(*coverage, x, y));
            }
        }
        return high - low;
    };
    EXPECT_GT(spread(0), 0.9);
    EXPECT_LT(spread(2), 0.02);
}

TEST(ColourRangeMask, MatchesASlowReference) {
    PlainStore store;
    store.colourAt = [](double x, double y) { return colour::EncodedRgb{x / 200, y / 150, 0.4}; };
    ColourRangeValues values;
    values.picks = {{{50, 50}, {60, 20, 10}}, {{10, 10}, {40, -20, 5}}};
    values.tolerance = 18;
    values.softness = 25;
    values.smoothPx = 0;
    const auto coverage = ColourRange(values).over(area, store).value();
    for (int y = 0; y < 150; y += 4) {
        for (int x = 0; x < 200; x += 4) {
            const colour::Lab lab = colour::labFromEncoded(store.colourAt(x + 0.5, y + 0.5));
            double nearest = 1e9;
            for (const ColourPick& pick : values.picks) {
                nearest = std::min(
                    nearest, std::sqrt(std::pow(0.6 * (lab.l - pick.colour.l), 2) + std::pow(lab.a - pick.colour.a, 2) +
                                       std::pow(lab.b - pick.colour.b, 2)));
            }
            ASSERT_NEAR(covered(*coverage, x, y), 1 - raisedCosine((nearest - 18) / 25), 1e-3) << x << " " << y;
        }
    }
}

TEST(ColourRangeMask, HueBandLeavesGreysOut) {
    PlainStore store;
    store.colourAt = [](double x, double) {
        return x < 100 ? colour::EncodedRgb{0.8, 0.2, 0.2} : colour::EncodedRgb{0.52, 0.5, 0.5};
    };
    ColourRangeValues values;
    values.byHue = true;
    values.smoothPx = 0;
    const auto coverage = ColourRange(values).over(area, store).value();
    EXPECT_EQ(at(*coverage, 50, 50), 65535);
    EXPECT_EQ(at(*coverage, 150, 50), 0);
}

TEST(ColourRangeMask, ConnectedKeepsOnlyWhatHangsTogetherWithThePicks) {
    PlainStore store;
    // Two red fields with a blue strip between.
    store.colourAt = [](double x, double) {
        return x > 95 && x < 105 ? colour::EncodedRgb{0.1, 0.1, 0.8} : colour::EncodedRgb{0.8, 0.1, 0.1};
    };
    ColourRangeValues values;
    values.picks = {{{40, 70}, colour::labFromEncoded({0.8, 0.1, 0.1})}};
    values.smoothPx = 0;
    EXPECT_EQ(at(*ColourRange(values).over(area, store).value(), 160, 70), 65535);
    values.connected = true;
    PlainStore fresh;
    fresh.colourAt = store.colourAt;
    const auto connected = ColourRange(values).over(area, fresh).value();
    EXPECT_EQ(at(*connected, 40, 70), 65535);
    EXPECT_EQ(at(*connected, 160, 70), 0);
}

TEST(ColourRangeMask, WithinARadiusFadesOverItsLastFifth) {
    PlainStore store;
    ColourRangeValues values;
    values.picks = {{{100, 75}, colour::labFromEncoded({0.5, 0.5, 0.5})}};
    values.radiusPx = 50;
    values.smoothPx = 0;
    const auto coverage = ColourRange(values).over(area, store).value();
    EXPECT_EQ(at(*coverage, 130, 75), 65535);
    EXPECT_NEAR(covered(*coverage, 144, 75), 0.5, 0.1);
    EXPECT_EQ(at(*coverage, 151, 75), 0);
}

TEST(ColourRangeMask, WithoutPicksCoversNothing) {
    PlainStore store;
    EXPECT_TRUE(ColourRange({}).over(area, store).value()->isEmpty());
}

TEST(OutlineMask, CoversTheInsideExactly) {
    PlainStore store;
    const auto coverage =
        Outline({{20.25, 30}, {120.75, 30}, {120.75, 90.5}, {20.25, 90.5}}, 0).over(area, store).value();
    EXPECT_EQ(at(*coverage, 60, 60), 65535);
    EXPECT_EQ(at(*coverage, 19, 60), 0);
    EXPECT_NEAR(covered(*coverage, 20, 60), 0.75, 0.01);
    EXPECT_NEAR(covered(*coverage, 60, 90), 0.5, 0.07);
    double sum = 0;
    for (int y = 0; y < 150; ++y) {
        for (int x = 0; x < 200; ++x) sum += covered(*coverage, x, y);
    }
    EXPECT_NEAR(sum, 100.5 * 60.5, 10);
}

TEST(OutlineMask, CrossingItselfLeavesTheOverlapOutAndTwoPointsCoverNothing) {
    PlainStore store;
    const auto star = Outline({{40, 40}, {120, 40}, {120, 100}, {60, 100}, {60, 20}, {100, 20}, {100, 80}, {40, 80}}, 0)
                          .over(area, store)
                          .value();
    EXPECT_EQ(at(*star, 80, 60), 0);
    EXPECT_GT(at(*star, 50, 60), 65000);
    EXPECT_TRUE(Outline({{1, 1}, {50, 50}}, 4).over(area, store).value()->isEmpty());
}

// A hard edge blurred by a Gaussian is the normal distribution: 1/2 erfc(d / (sigma sqrt 2)).
TEST(OutlineMask, FeatherIsTheErrorFunction) {
    for (const double feather : {4.0, 10.0, 60.0, 200.0}) {
        PlainStore store;
        const Area wide{{0, 0, 400, 40}, 0};
        const auto coverage =
            Outline({{-2000, -2000}, {200, -2000}, {200, 2000}, {-2000, 2000}}, feather).over(wide, store).value();
        const double sigma = feather / (2 * 1.2815515655);
        double worst = 0;
        for (int x = 0; x < 400; ++x) {
            const double expected = 0.5 * std::erfc((x + 0.5 - 200) / (sigma * std::numbers::sqrt2));
            worst = std::max(worst, std::abs(covered(*coverage, x, 20) - expected));
        }
        std::printf("feather %.0f px: worst difference to the error function %.4f\n", feather, worst);
        EXPECT_LT(worst, 0.006) << feather;
    }
}

TEST(MatteMask, TakesAlphaOrAPictureScaledToThePhoto) {
    PlainStore store;
    EXPECT_TRUE(Matte().over(area, store).value()->isEmpty()) << "no alpha";
    store.alphaAt = [](double x, double) { return x / 200; };
    EXPECT_NEAR(covered(*Matte().over(area, store).value(), 150, 20), 150.5 / 200, 1e-4);
    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(base::Size{2, 1});
    pixels->row(0)[0] = 0;
    pixels->row(0)[1] = 65535;
    const Matte picture("a.png", pixels);
    const auto coverage = picture.over(area, store).value();
    EXPECT_EQ(at(*coverage, 10, 70), 0);
    EXPECT_EQ(at(*coverage, 190, 70), 65535);
    EXPECT_NEAR(covered(*coverage, 100, 70), 0.5, 0.01);
    EXPECT_TRUE(Matte("lost.png", nullptr).over(area, store).value()->isEmpty());
}

TEST(ShapeKinds, RefuseWrongJson) {
    const std::pair<const char*, const char*> cases[] = {
        {"radial-gradient", "{}"},
        {"radial-gradient", R"({"centre": [1, 2], "half-width": 0, "half-height": 4})"},
        {"radial-gradient", R"({"centre": [1, 2], "half-width": 3, "half-height": 4, "feather": 200})"},
        {"colour-range", R"({"by": "smell"})"},
        {"colour-range", R"({"picks": [{"at": [1, 2]}]})"},
        {"colour-range", R"({"hues": [0, 400, 500, 600]})"},
        {"colour-range", R"({"hues": [0, 1, 2]})"},
        {"luminosity-range", R"({"tones": [40, 20, 60, 80]})"},
        {"luminosity-range", R"({"tones": [0, 20, 60, 180]})"},
        {"luminosity-range", R"({"tones": [0, 20, 60, 80], "measured": "never"})"},
        {"outline", "{}"},
        {"outline", R"({"points": [[1]]})"},
        {"matte", R"({"source": "file"})"},
        {"matte", R"({"source": "thin air"})"},
        {"borrowed", "{}"},
        {"borrowed", R"({"from": "Sky"})"},
    };
    for (const auto& [kind, text] : cases) {
        const auto result = findShapeKind(kind)->fromJson(nlohmann::json::parse(text));
        ASSERT_FALSE(result) << kind << " " << text;
        EXPECT_EQ(result.error().code, base::ErrorCode::invalidValue) << kind << " " << text;
    }
}

TEST(ShapeKinds, ComeBackFromJsonWithTheirValues) {
    ColourRangeValues colours;
    colours.picks = {{{12.5, -3}, {50, 10, -20}}};
    colours.connected = true;
    colours.radiusPx = 300;
    LuminosityRangeValues tones;
    tones.seen = Seen::arriving;
    tones.tones.points = {1, 2, 3, 4};
    const ShapePtr shapes[] = {std::make_shared<RadialGradient>(Oval{{-50, 20.5}, 300, 20, -30, 12}),
                               std::make_shared<ColourRange>(colours), std::make_shared<LuminosityRange>(tones),
                               std::make_shared<Outline>(std::vector<base::Point>{{1, 2}, {3, 4.5}, {-5, 6}}, 7),
                               std::make_shared<BorrowedMask>(42)};
    for (const ShapePtr& shape : shapes) {
        nlohmann::json json, again;
        shape->toJson(json);
        const auto back = shape->kind().fromJson(json);
        ASSERT_TRUE(back) << shape->kind().id << ": " << back.error().message;
        (*back)->toJson(again);
        EXPECT_EQ(json, again);
    }
}

// A hard rim that ends beside the edge of a tile: what is said to be even there is even.
TEST(RadialGradient, AHardOvalIsWholeHoweverItLiesToTheTiles) {
    PlainStore none(false);
    for (const int level : {0, 1, 2}) {
        const int tile = 32, scale = 1 << level;
        for (double half = 28; half < 36; half += 0.11) {
            for (const double turn : {0.0, 33.0}) {
                const RadialGradient oval({{0, 3}, half * scale, half * scale / 2, turn, 0});
                const Area whole{{-2 * tile, -2 * tile, 2 * tile, 2 * tile}, level};
                const auto all = oval.over(whole, none).value();
                for (int y = -2 * tile; y < 2 * tile; y += tile) {
                    for (int x = -2 * tile; x < 2 * tile; x += tile) {
                        const Area part{{x, y, x + tile, y + tile}, level};
                        const auto even = oval.uniformOn(part);
                        const auto own = oval.over(part, none).value();
                        for (int v = 0; v < tile; ++v) {
                            for (int u = 0; u < tile; ++u) {
                                const int expected = at(*all, x + 2 * tile + u, y + 2 * tile + v);
                                ASSERT_EQ(even ? *even : at(*own, u, v), expected) << half << ", level " << level;
                            }
                        }
                    }
                }
            }
        }
    }
}

}  // namespace dimhem::mask
