#include "core/adjust/hue_bands.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/adjust/tint.h"
#include "core/colour/hsl.h"
#include "core/colour/lab.h"
#include "tests/support/adjustments.h"

namespace dimhem::adjust {

namespace {

using colour::EncodedRgb;
using tests::applied;
using tests::luminance;

struct Band {
    double p0, p1, p2, p3, hue, saturation, lightness, towards = 0, bend = 0;
};

Settings bands(std::initializer_list<Band> list, bool keepLuminance = false) {
    Settings settings = neutralSettings(hueBands);
    settings.values[0] = keepLuminance;
    settings.tables[0].clear();
    for (const Band& b : list)
        settings.tables[0].insert(settings.tables[0].end(),
                                  {b.p0, b.p1, b.p2, b.p3, b.hue, b.saturation, b.lightness, b.towards, b.bend});
    return settings;
}

struct Hsl {
    double h, s, l;
};

Hsl hslOf(const EncodedRgb& c) {
    const double most = std::max({c.r, c.g, c.b}), least = std::min({c.r, c.g, c.b}), l = (most + least) / 2;
    const double chroma = most - least;
    if (chroma < 1e-9) return {0, 0, l};
    double h = most == c.r ? (c.g - c.b) / chroma : most == c.g ? 2 + (c.b - c.r) / chroma : 4 + (c.r - c.g) / chroma;
    h = std::fmod(60 * h + 360, 360);
    return {h, chroma / (1 - std::abs(2 * l - 1)), l};
}

void expectNear(const EncodedRgb& a, const EncodedRgb& b, double tolerance) {
    EXPECT_NEAR(a.r, b.r, tolerance);
    EXPECT_NEAR(a.g, b.g, tolerance);
    EXPECT_NEAR(a.b, b.b, tolerance);
}

}  // namespace

// Against CSS Color Module Level 4, HSL, in double (colour::rgbFromHsl has the examples).
TEST(HueBands, TurnSaturateAndLightenInHsl) {
    for (double hue = 0; hue < 360; hue += 7) {
        const EncodedRgb in = colour::rgbFromHsl(hue, 0.5, 0.45);
        expectNear(applied(hueBands, bands({{-180, -180, 180, 180, 25, 0, 0}}), in),
                   colour::rgbFromHsl(hue + 25, 0.5, 0.45), 1e-5);
        expectNear(applied(hueBands, bands({{-180, -180, 180, 180, 0, -40, 0}}), in),
                   colour::rgbFromHsl(hue, 0.3, 0.45), 1e-5);
        expectNear(applied(hueBands, bands({{-180, -180, 180, 180, 0, 0, 20}}), in),
                   colour::rgbFromHsl(hue, 0.5, 0.45 + 0.2 * 0.55), 1e-5);
        expectNear(applied(hueBands, bands({{-180, -180, 180, 180, 0, 0, -20}}), in),
                   colour::rgbFromHsl(hue, 0.5, 0.45 * 0.8), 1e-5);
    }
}

TEST(HueBands, FadeAsARaisedCosineBetweenTheirPoints) {
    const Settings settings = bands({{300, 330, 380, 400, 0, -100, 0}});
    for (double hue = 0; hue < 360; hue += 1.5) {
        const double on = hue < 200 ? hue + 360 : hue;
        const auto cosine = [](double t) { return 0.5 - 0.5 * std::cos(std::numbers::pi * std::clamp(t, 0.0, 1.0)); };
        const double w = on < 300 || on > 400 ? 0 : std::min(cosine((on - 300) / 30), cosine((400 - on) / 20));
        const double left = hslOf(applied(hueBands, settings, colour::rgbFromHsl(hue, 0.6, 0.5))).s / 0.6;
        EXPECT_NEAR(left, 1 - w, 2e-5) << hue;
    }
}

TEST(HueBands, WhatNoBandTouchesKeepsItsBits) {
    const Settings settings = bands({{90, 100, 140, 150, 60, 80, 30}}, true);
    for (const EncodedRgb& c :
         {EncodedRgb{0.8, 0.3, 0.2}, {0.3, 0.3, 0.3}, {0.2, 0.3, 0.9}, {1.4, 0.2, -0.3}, {0, 0, 0}}) {
        const EncodedRgb out = applied(hueBands, settings, c);
        EXPECT_EQ(out.r, double{static_cast<float>(c.r)});
        EXPECT_EQ(out.g, double{static_cast<float>(c.g)});
        EXPECT_EQ(out.b, double{static_cast<float>(c.b)});
    }
}

TEST(HueBands, HoldTheLightWhereTheyAreTold) {
    const Settings turned = bands({{-60, -40, 40, 60, 50, 30, 0}}, true);
    for (const EncodedRgb& c : {EncodedRgb{0.7, 0.3, 0.25}, {0.5, 0.35, 0.3}, {0.35, 0.1, 0.12}}) {
        const EncodedRgb out = applied(hueBands, turned, c);
        EXPECT_NEAR(luminance(out), luminance(c), 3e-5);
        EXPECT_GT(std::abs(out.g - c.g), 0.02);
    }
}

TEST(HueBands, ManyAddUp) {
    const EncodedRgb in = colour::rgbFromHsl(10, 0.5, 0.5);
    const EncodedRgb both = applied(
        hueBands, bands({{-40, -20, 20, 40, 8, 0, 0}, {-40, -20, 20, 40, 7, -20, 0}, {100, 110, 120, 130, 99, 0, 0}}),
        in);
    expectNear(both, colour::rgbFromHsl(25, 0.4, 0.5), 1e-5);
}

TEST(HueBands, LeadGreysOut) {
    const Settings settings = bands({{-180, -180, 180, 180, 0, 0, 50}});
    const EncodedRgb grey = applied(hueBands, settings, {0.5, 0.5, 0.5});
    EXPECT_EQ(grey.r, 0.5);
    double before = 0.5;
    for (double chroma = 0; chroma < 0.12; chroma += 0.002) {
        const double light = hslOf(applied(hueBands, settings, {0.5 + chroma / 2, 0.5, 0.5 - chroma / 2})).l;
        EXPECT_GE(light, before - 1e-6);
        before = light;
    }
    EXPECT_NEAR(before, 0.75, 1e-4);
}

// Common practice: +8 on the reddest band leaves lips (a deeper, bluer red) where they are.
TEST(HueBands, OnlyTheReddestPartTurns) {
    const Settings settings = bands({{4, 9, 17, 22, 8, 0, 0}}, true);
    const EncodedRgb patch = colour::rgbFromHsl(13, 0.45, 0.55), lips = colour::rgbFromHsl(356, 0.5, 0.4),
                     skin = colour::rgbFromHsl(27, 0.35, 0.62);
    EXPECT_NEAR(hslOf(applied(hueBands, settings, patch)).h, 21, 0.1);
    EXPECT_EQ(applied(hueBands, settings, lips).r, double{static_cast<float>(lips.r)});
    EXPECT_EQ(applied(hueBands, settings, skin).g, double{static_cast<float>(skin.g)});
}

// Common practice: yellow saturation -35 and lightness +15 brightens yellowed white things; a touch of colour is left.
TEST(HueBands, YellowedWhiteIsBrightenedWithoutGrey) {
    const Settings settings = bands({{20, 32, 65, 80, 0, -35, 15}});
    for (const EncodedRgb& ivory : {EncodedRgb{0.80, 0.74, 0.58}, {0.70, 0.62, 0.46}}) {
        const auto before = colour::labFromEncoded(ivory),
                   after = colour::labFromEncoded(applied(hueBands, settings, ivory));
        EXPECT_GT(after.l, before.l + 1.5);
        EXPECT_LT(after.b, 0.75 * before.b);
        EXPECT_GT(after.b, 0.3 * before.b);
    }
}

TEST(HueBands, AreIdleWithoutShiftsAndGlareForALook) {
    EXPECT_TRUE(isNeutral(hueBands, neutralSettings(hueBands)));
    EXPECT_TRUE(isNeutral(hueBands, bands({{1, 2, 3, 4, 0, 0, 0}, {50, 60, 70, 80, 0, 0, 0}})));
    const Settings two = bands({{1, 2, 3, 4, 0, 0, 0}, {50, 60, 70, 80, 0, 0, 0}});
    const Settings look = hueBands.glaring(two, 1);
    ASSERT_EQ(look.tables[0].size(), std::size_t{bandColumns});
    EXPECT_FALSE(isNeutral(hueBands, look));
    const EncodedRgb yellow = colour::rgbFromHsl(65, 0.5, 0.5), red = colour::rgbFromHsl(2.5, 0.5, 0.5);
    EXPECT_GT(applied(hueBands, look, yellow).b, 0.6) << "its opposite";
    EXPECT_EQ(applied(hueBands, look, red).r, double{static_cast<float>(red.r)});
}

TEST(HueBands, WantFourPointsInOneTurn) {
    EXPECT_EQ(hueBands.invalidReason(bands({{1, 2, 3, 4, 0, 0, 0}})), nullptr);
    EXPECT_NE(hueBands.invalidReason(bands({{1, 5, 3, 40, 0, 0, 0}})), nullptr);
    EXPECT_NE(hueBands.invalidReason(bands({{-300, 2, 3, 100, 0, 0, 0}})), nullptr);
}

// A thing of one hue with its neighbour's light on it: one band bends all of that towards its own hue, the nearer way
// round the circle.
TEST(HueBands, BendTowardsOneHue) {
    for (const double target : {20.0, 340.0, 60.0}) {
        for (const double bend : {30.0, 100.0}) {
            const Settings settings = bands({{-180, -180, 180, 180, 0, 0, 0, target, bend}});
            for (const double hue : {0.0, 35.0, 75.0, 290.0, 355.0}) {
                const double off = std::remainder(target - hue, 360);
                if (std::abs(off) > 88) continue;
                const colour::EncodedRgb in = colour::rgbFromHsl(hue, 0.6, 0.45);
                const double expected = std::fmod(hue + bend / 100 * off + 360, 360);
                EXPECT_NEAR(std::remainder(hslOf(applied(hueBands, settings, in)).h - expected, 360), 0, 0.05)
                    << hue << " towards " << target;
            }
        }
    }
}

// At the opposite hue neither way is the nearer: nothing happens there, and neighbours stay neighbours.
TEST(HueBands, BendNothingAtTheOppositeHue) {
    const Settings settings = bands({{-180, -180, 180, 180, 0, 0, 0, 90, 100}});
    double before = 0;
    for (double hue = 200; hue <= 340; hue += 0.5) {
        const double out = hslOf(applied(hueBands, settings, colour::rgbFromHsl(hue, 0.6, 0.45))).h;
        if (hue == 270) {
            EXPECT_NEAR(out, 270, 0.2);
        }
        if (hue > 200) {
            EXPECT_LT(std::abs(std::remainder(out - before, 360)), 3) << hue;
        }
        before = out;
    }
}

}  // namespace dimhem::adjust
