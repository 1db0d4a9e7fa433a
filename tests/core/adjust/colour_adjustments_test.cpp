// Colour balance, saturation, tint and spill suppression; and what holds for every kind.
#include <gtest/gtest.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/adjust/colour_balance.h"
#include "core/adjust/hue_bands.h"
#include "core/adjust/match_area.h"
#include "core/adjust/registry.h"
#include "core/adjust/saturation.h"
#include "core/adjust/spill_suppression.h"
#include "core/adjust/tint.h"
#include "core/adjust/tone_curve.h"
#include "core/colour/hsl.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "tests/support/adjustments.h"

namespace dimhem::adjust {

namespace {

using colour::EncodedRgb;
using colour::LinearRgb;

using tests::applied;
using tests::luminance;
using tests::with;

const EncodedRgb colours[] = {{0.1, 0.12, 0.09}, {0.5, 0.5, 0.5},   {0.7, 0.4, 0.3}, {0.2, 0.5, 0.8},
                              {0.9, 0.85, 0.6},  {0.95, 0.1, 0.05}, {0.3, 0.6, 0.2}, {0.02, 0.01, 0.03}};

}  // namespace

TEST(ColourBalance, AddsItsThreeWeighedShifts) {
    const Settings values = with(colourBalance, {{"shadows-red", 40},
                                                 {"midtones-green", -60},
                                                 {"highlights-blue", 80},
                                                 {"midtones-red", 10},
                                                 {"keep-luminance", 0}});
    for (const EncodedRgb& c : colours) {
        const double t = std::clamp(colour::labFromEncoded(c).l / 100, 0.0, 1.0);
        const double dark = (1 - t) * (1 - t), middle = 2 * t * (1 - t), light = t * t;
        EXPECT_NEAR(dark + middle + light, 1, 1e-12);
        const EncodedRgb out = applied(colourBalance, values, c);
        EXPECT_NEAR(out.r - c.r, 0.2 * (0.4 * dark + 0.1 * middle), 1e-4);
        EXPECT_NEAR(out.g - c.g, 0.2 * -0.6 * middle, 1e-4);
        EXPECT_NEAR(out.b - c.b, 0.2 * 0.8 * light, 1e-4);
    }
}

TEST(ColourBalance, KeepsTheLuminanceWhereItIsTold) {
    const Settings values =
        with(colourBalance, {{"shadows-blue", 50}, {"midtones-red", 70}, {"highlights-green", -40}});
    for (const EncodedRgb& c : colours) {
        const EncodedRgb out = applied(colourBalance, values, c);
        EXPECT_NEAR(luminance(out), luminance(c), 2e-5 + 2e-4 * luminance(c));
        EXPECT_GT(std::abs(out.r - c.r) + std::abs(out.b - c.b), 1e-3);
    }
}

TEST(ColourBalance, IsFoundForWhatShouldBeNeutral) {
    for (const EncodedRgb& cast : {EncodedRgb{0.45, 0.50, 0.44}, {0.80, 0.76, 0.66}, {0.16, 0.14, 0.20}}) {
        const auto castOf = [](const EncodedRgb& c) {
            const auto lab = colour::labFromEncoded(c);
            return std::hypot(lab.a, lab.b);
        };
        const auto left = [&](double leave) {
            return castOf(
                applied(colourBalance, colourBalance.neutralising(colour::linearFromEncoded(cast), leave), cast));
        };
        EXPECT_LT(left(0), 0.1);
        EXPECT_NEAR(left(0.1) / castOf(cast), 0.1, 0.02) << "a touch is left";
    }
}

TEST(ColourBalance, TakesACastOutOfTheMiddleTones) {
    // A grey with a green cast: magenta until it is neutral.
    const EncodedRgb cast{0.45, 0.50, 0.45};
    double least = 1e9;
    for (double green = -60; green <= 0; green += 2) {
        const auto lab =
            colour::labFromEncoded(applied(colourBalance, with(colourBalance, {{"midtones-green", green}}), cast));
        least = std::min(least, std::hypot(lab.a, lab.b));
    }
    EXPECT_LT(least, 1.0);
}

TEST(Saturation, KeepsTheLuminanceAndLeavesGreyAlone) {
    for (const double amount : {-100.0, -40.0, 30.0, 100.0}) {
        const Settings values = with(saturation, {{"amount", amount}, {"guard", 0}});
        for (const EncodedRgb& c : colours)
            EXPECT_NEAR(luminance(applied(saturation, values, c)), luminance(c), 1e-5 + 1e-4 * luminance(c)) << amount;
        const EncodedRgb grey = applied(saturation, values, {0.4, 0.4, 0.4});
        EXPECT_NEAR(grey.r, 0.4, 1e-5);
        EXPECT_NEAR(grey.b, 0.4, 1e-5);
    }
}

TEST(Saturation, TakesAllColourAtTheEndAndHalfOfItHalfWay) {
    const EncodedRgb c{0.7, 0.4, 0.3};
    const EncodedRgb none = applied(saturation, with(saturation, {{"amount", -100}}), c);
    EXPECT_NEAR(none.r, none.g, 1e-5);
    EXPECT_NEAR(none.g, none.b, 1e-5);
    const LinearRgb half = colour::linearFromEncoded(applied(saturation, with(saturation, {{"amount", -50}}), c)),
                    whole = colour::linearFromEncoded(c);
    EXPECT_NEAR(half.r - half.b, (whole.r - whole.b) / 2, 1e-5);
}

TEST(Saturation, GivesLessToWhatIsDenseAlready) {
    const Settings values = with(saturation, {{"amount", 60}, {"guard", 0}});
    const auto gain = [&](const EncodedRgb& c) {
        const LinearRgb was = colour::linearFromEncoded(c),
                        is = colour::linearFromEncoded(applied(saturation, values, c));
        return (is.r - is.b) / (was.r - was.b);
    };
    EXPECT_GT(gain({0.55, 0.5, 0.45}), gain({0.7, 0.5, 0.3}));
    EXPECT_GT(gain({0.7, 0.5, 0.3}), gain({0.9, 0.3, 0.05}));
    EXPECT_NEAR(gain({0.55, 0.5, 0.45}), 1 + 0.6 * 0.45 / 0.55, 1e-3);
}

TEST(Saturation, GuardStopsBeforeAChannelClipsHoweverOftenItIsLaid) {
    const Settings guarded = with(saturation, {{"amount", 100}}),
                   free = with(saturation, {{"amount", 100}, {"guard", 0}});
    bool clipped = false;
    for (EncodedRgb c : colours) {
        EncodedRgb unguarded = c;
        for (int n = 0; n < 12; ++n) {
            c = applied(saturation, guarded, c);
            unguarded = applied(saturation, free, unguarded);
            for (const double v : {c.r, c.g, c.b}) {
                EXPECT_GE(v, -2e-5);
                EXPECT_LE(v, 1 + 2e-5);
            }
        }
        clipped = clipped || std::min({unguarded.r, unguarded.g, unguarded.b}) < -0.01;
    }
    EXPECT_TRUE(clipped) << "without it they would have";
}

TEST(Saturation, LeavesWhatIsBeyondTheRangeAloneWithTheGuard) {
    const EncodedRgb out = applied(saturation, with(saturation, {{"amount", 80}}), {1.3, 0.5, -0.1});
    EXPECT_NEAR(out.r, 1.3, 2e-5);
    EXPECT_NEAR(out.b, -0.1, 2e-5);
}

// Common practice: yellowed keys at -35, with a little more light, brighten without turning grey.
TEST(Saturation, YellowedWhiteAtMinus35KeepsATouchOfColour) {
    const EncodedRgb ivory{0.80, 0.74, 0.58};
    const auto before = colour::labFromEncoded(ivory),
               after = colour::labFromEncoded(applied(saturation, with(saturation, {{"amount", -35}}), ivory));
    EXPECT_LT(after.b, 0.75 * before.b);
    EXPECT_GT(after.b, 0.4 * before.b);
    EXPECT_NEAR(after.l, before.l, 0.1);
}

// CSS Color Module Level 4, section 7: the hsl() of named colours; quoted from memory.
TEST(Tint, ItsColourFollowsHsl) {
    struct Example {
        double h, s, l;
        EncodedRgb rgb;
    };
    const Example examples[] = {{0, 1, 0.5, {1, 0, 0}},
                                {120, 1, 0.25, {0, 0.5, 0}},
                                {240, 1, 0.5, {0, 0, 1}},
                                {60, 1, 0.375, {0.75, 0.75, 0}},
                                {180, 0.5, 0.5, {0.25, 0.75, 0.75}},
                                {300, 0, 0.3, {0.3, 0.3, 0.3}},
                                {360, 1, 0.5, {1, 0, 0}},
                                {30, 1, 0.5, {1, 0.5, 0}}};
    for (const Example& e : examples) {
        const EncodedRgb got = colour::rgbFromHsl(e.h, e.s, e.l);
        EXPECT_NEAR(got.r, e.rgb.r, 1e-9) << e.h;
        EXPECT_NEAR(got.g, e.rgb.g, 1e-9) << e.h;
        EXPECT_NEAR(got.b, e.rgb.b, 1e-9) << e.h;
    }
}

TEST(Tint, IsLaidOverByItsStrength) {
    const EncodedRgb c{0.2, 0.5, 0.8}, over = colour::rgbFromHsl(35, 0.8, 0.6);
    for (const double strength : {0.0, 20.0, 100.0}) {
        const EncodedRgb out = applied(tint, with(tint, {{"strength", strength}}), c);
        EXPECT_NEAR(out.r, c.r + strength / 100 * (over.r - c.r), 1e-6);
        EXPECT_NEAR(out.b, c.b + strength / 100 * (over.b - c.b), 1e-6);
    }
    const EncodedRgb none = applied(tint, with(tint, {{"strength", 0}, {"hue", 200}}), c);
    EXPECT_EQ(static_cast<float>(none.r), static_cast<float>(c.r)) << "bit for bit";
}

TEST(SpillSuppression, LimitsTheScreensChannelByMeanOrMaximum) {
    const EncodedRgb spilled{0.5, 0.7, 0.3};
    const auto green = [&](double limit, double amount) {
        return applied(spillSuppression,
                       with(spillSuppression, {{"amount", amount}, {"limit", limit}, {"light-back", 0}}), spilled);
    };
    EXPECT_NEAR(green(0, 100).g, 0.4, 1e-6);
    EXPECT_NEAR(green(100, 100).g, 0.5, 1e-6);
    EXPECT_NEAR(green(50, 100).g, 0.45, 1e-6);
    EXPECT_NEAR(green(0, 50).g, 0.55, 1e-6);
    EXPECT_EQ(green(0, 100).r, double{0.5f});
    const EncodedRgb blue =
        applied(spillSuppression, with(spillSuppression, {{"amount", 100}, {"screen", 240}, {"light-back", 0}}),
                {0.4, 0.2, 0.8});
    EXPECT_NEAR(blue.b, 0.3, 1e-6);
    EXPECT_EQ(blue.g, double{0.2f});
}

TEST(SpillSuppression, TakesAScreenOfAnyHueOff) {
    for (double hue = 0; hue < 360; hue += 15) {
        // A grey with the light of the screen on it: along the screen's hue about the grey axis.
        const double angle = hue * std::numbers::pi / 180;
        const auto channel = [&](int third) { return 0.45 + 0.2 * std::cos(angle - third * 2 * std::numbers::pi / 3); };
        const EncodedRgb spilled{channel(0), channel(1), channel(2)};
        EXPECT_NEAR(std::remainder(screenHueOf(spilled) - hue, 360), 0, 1e-6);
        const EncodedRgb out = applied(
            spillSuppression, with(spillSuppression, {{"amount", 100}, {"light-back", 0}, {"screen", hue}}), spilled);
        const auto chroma = [](const EncodedRgb& c) { return std::max({c.r, c.g, c.b}) - std::min({c.r, c.g, c.b}); };
        EXPECT_LT(chroma(out), 1e-5) << hue;
        // The opposite hue is not spill.
        const EncodedRgb other{0.9 - spilled.r, 0.9 - spilled.g, 0.9 - spilled.b};
        const EncodedRgb same =
            applied(spillSuppression, with(spillSuppression, {{"amount", 100}, {"screen", hue}}), other);
        EXPECT_EQ(same.r, double{static_cast<float>(other.r)}) << hue;
        EXPECT_EQ(same.b, double{static_cast<float>(other.b)}) << hue;
    }
}

TEST(SpillSuppression, LeavesEveryBitWhereThereIsNoSpill) {
    const Settings values = with(spillSuppression, {{"amount", 100}, {"light-back", 100}});
    for (const EncodedRgb& c : {EncodedRgb{0.5, 0.3, 0.4}, {0.4, 0.4, 0.4}, {0.9, 0.2, 0.8}, {0, 0, 0}, {1, 1, 1}}) {
        const EncodedRgb out = applied(spillSuppression, values, c);
        EXPECT_EQ(out.r, double{static_cast<float>(c.r)});
        EXPECT_EQ(out.g, double{static_cast<float>(c.g)});
        EXPECT_EQ(out.b, double{static_cast<float>(c.b)});
    }
}

TEST(SpillSuppression, GivesTheLostLightBack) {
    const EncodedRgb spilled{0.5, 0.7, 0.3};
    const EncodedRgb all =
        applied(spillSuppression, with(spillSuppression, {{"amount", 100}, {"light-back", 100}}), spilled);
    EXPECT_NEAR(luminance(all), luminance(spilled), 2e-5);
    EXPECT_LT(all.g - (all.r + all.b) / 2, 0.25 * (0.7 - 0.4));
    const EncodedRgb none =
        applied(spillSuppression, with(spillSuppression, {{"amount", 100}, {"light-back", 0}}), spilled);
    EXPECT_LT(luminance(none), luminance(spilled) - 0.05);
}

TEST(SpillSuppression, ActsOnTheTonesItIsToldTo) {
    const Settings darkOnly =
        with(spillSuppression, {{"amount", 100}, {"light-back", 0}, {"midtones", 0}, {"highlights", 0}});
    const auto share = [&](const EncodedRgb& c) {
        const double excess = c.g - (c.r + c.b) / 2;
        return (c.g - applied(spillSuppression, darkOnly, c).g) / excess;
    };
    EXPECT_GT(share({0.05, 0.08, 0.05}), 0.85);
    EXPECT_LT(share({0.85, 0.95, 0.85}), 0.02);
}

TEST(ColourAdjustments, EveryRowLengthGivesTheSamePixels) {
    for (const AdjustmentKind* kind : adjustmentKinds()) {
        Settings values = neutralSettings(*kind);
        for (std::size_t i = 0; i < values.values.size(); ++i) {
            if (!kind->params[i].toggle) values.values[i] = kind->params[i].max * 0.3;
        }
        if (kind == &toneCurve) values.tables[0] = {0, 10, 40, 60, 100, 95};
        if (kind == &hueBands) values.tables[0] = {-30, -10, 30, 50, 20, 40, -10};
        if (kind == &matchArea)
            values = matchArea.matching(values, {0, 0, 1, 1}, {{50, 2, 3}, {9, 4, 5}}, {{60, 1, 9}, {7, 3, 6}});
        const auto operation = kind->prepare(values);
        const EncodedRgb one = applied(*kind, values, {0.6, 0.35, 0.2});
        for (const std::size_t width : {1u, 7u, 255u, 256u, 257u, 700u}) {
            std::vector<float> r(width, 0.6f), g(width, 0.35f), b(width, 0.2f);
            apply(operation, {r.data(), g.data(), b.data()}, width);
            for (std::size_t i = 0; i < width; ++i) {
                ASSERT_EQ(r[i], static_cast<float>(one.r)) << kind->id << " " << width;
                ASSERT_EQ(b[i], static_cast<float>(one.b)) << kind->id << " " << width;
            }
        }
    }
}

}  // namespace dimhem::adjust
