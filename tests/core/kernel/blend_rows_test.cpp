#include "core/kernel/blend_rows.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <map>

namespace dimhem::kernel {

namespace {

using Rgb = std::array<double, 3>;

// The formulas of W3C Compositing and Blending Level 1, written out a second time from its sections 10.1 (separable)
// and 10.2 (non-separable) as plain arithmetic in double; quoted from memory.
using Channel = std::function<double(double b, double s)>;

std::map<BlendMode, Channel> separableModes() {
    const Channel multiply = [](double b, double s) { return b * s; };
    const Channel screen = [](double b, double s) { return 1 - (1 - b) * (1 - s); };
    const Channel hardLight = [=](double b, double s) { return s <= 0.5 ? multiply(b, 2 * s) : screen(b, 2 * s - 1); };
    return {{BlendMode::multiply, multiply},
            {BlendMode::screen, screen},
            {BlendMode::overlay, [=](double b, double s) { return hardLight(s, b); }},
            {BlendMode::darken, [](double b, double s) { return std::min(b, s); }},
            {BlendMode::lighten, [](double b, double s) { return std::max(b, s); }},
            {BlendMode::colourDodge,
             [](double b, double s) { return b == 0   ? 0
                                             : s == 1 ? 1
                                                      : std::min(1.0, b / (1 - s)); }},
            {BlendMode::colourBurn,
             [](double b, double s) { return b == 1   ? 1
                                             : s == 0 ? 0
                                                      : 1 - std::min(1.0, (1 - b) / s); }},
            {BlendMode::hardLight, hardLight},
            {BlendMode::softLight,
             [](double b, double s) {
                 if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
                 const double d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : std::sqrt(b);
                 return b + (2 * s - 1) * (d - b);
             }},
            {BlendMode::difference, [](double b, double s) { return std::abs(b - s); }},
            {BlendMode::exclusion, [](double b, double s) { return b + s - 2 * b * s; }}};
}

double lum(const Rgb& c) {
    return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2];
}
double sat(const Rgb& c) {
    return *std::max_element(c.begin(), c.end()) - *std::min_element(c.begin(), c.end());
}
Rgb setLum(Rgb c, double l) {
    const double d = l - lum(c);
    for (double& v : c) v += d;
    const double now = lum(c), n = *std::min_element(c.begin(), c.end()), x = *std::max_element(c.begin(), c.end());
    if (n < 0) {
        for (double& v : c) v = now + (v - now) * now / (now - n);
    }
    if (x > 1) {
        for (double& v : c) v = now + (v - now) * (1 - now) / (x - now);
    }
    return c;
}
// By sorting, as the standard has it: the least becomes 0, the greatest s, the middle one in proportion.
Rgb setSat(const Rgb& c, double s) {
    std::array<std::size_t, 3> order{0, 1, 2};
    std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return c[a] < c[b]; });
    Rgb out{0, 0, 0};
    if (c[order[2]] > c[order[0]]) {
        out[order[1]] = (c[order[1]] - c[order[0]]) * s / (c[order[2]] - c[order[0]]);
        out[order[2]] = s;
    }
    return out;
}

Rgb blended(BlendMode mode, const Rgb& b, const Rgb& s) {
    float lower[3], upper[3];
    for (std::size_t c = 0; c < 3; ++c) {
        lower[c] = static_cast<float>(b[c]);
        upper[c] = static_cast<float>(s[c]);
    }
    blendRow(mode, {&lower[0], &lower[1], &lower[2]}, {&upper[0], &upper[1], &upper[2]}, 1);
    return {double{upper[0]}, double{upper[1]}, double{upper[2]}};
}

void forEachOfAGrid(const std::function<void(const Rgb& b, const Rgb& s)>& visit) {
    const double steps[] = {0, 0.2, 0.25, 0.5, 0.7, 1};
    for (const double b0 : steps) {
        for (const double b1 : steps) {
            for (const double s0 : steps) {
                for (const double s1 : steps) visit({b0, b1, 0.4}, {s0, 0.6, s1});
            }
        }
    }
}

}  // namespace

TEST(BlendModes, SeparableOnesFollowTheStandardOnAGrid) {
    for (const auto& [mode, formula] : separableModes()) {
        forEachOfAGrid([&, &mode = mode, &formula = formula](const Rgb& b, const Rgb& s) {
            const Rgb got = blended(mode, b, s);
            for (std::size_t c = 0; c < 3; ++c)
                ASSERT_NEAR(got[c], formula(b[c], s[c]), 2e-6) << idOf(mode) << " " << b[c] << " " << s[c];
        });
    }
}

TEST(BlendModes, NonSeparableOnesFollowTheStandardOnAGrid) {
    forEachOfAGrid([](const Rgb& b, const Rgb& s) {
        const std::pair<BlendMode, Rgb> expected[] = {{BlendMode::hue, setLum(setSat(s, sat(b)), lum(b))},
                                                      {BlendMode::saturation, setLum(setSat(b, sat(s)), lum(b))},
                                                      {BlendMode::colour, setLum(s, lum(b))},
                                                      {BlendMode::luminosity, setLum(b, lum(s))}};
        for (const auto& [mode, rgb] : expected) {
            const Rgb got = blended(mode, b, s);
            for (std::size_t c = 0; c < 3; ++c) ASSERT_NEAR(got[c], rgb[c], 3e-6) << idOf(mode);
        }
    });
}

TEST(BlendModes, AreSixteenAndFoundByTheirNames) {
    EXPECT_EQ(blendModes().size(), 16u);
    for (const BlendModeInfo& info : blendModes()) {
        EXPECT_EQ(blendModeOf(info.id), info.mode);
        EXPECT_EQ(idOf(info.mode), info.id);
    }
    EXPECT_FALSE(blendModeOf("dissolve"));
}

TEST(BlendModes, NormalKeepsTheBitsAndTheOthersHoldToTheRange) {
    for (const BlendModeInfo& info : blendModes()) {
        const Rgb got = blended(info.mode, {-0.3, 0.5, 1.8}, {1.4, -0.2, 0.5});
        if (info.mode == BlendMode::normal) {
            EXPECT_EQ(got[0], double{1.4f});
        } else {
            for (const double v : got) {
                EXPECT_GE(v, -1e-6) << info.id;
                EXPECT_LE(v, 1 + 1e-6) << info.id;
            }
        }
    }
}

TEST(BlendModes, ColourBurnWithGreyTakesAWhiteVeilAway) {
    // I = J t + (1 - t) is a white veil of transmission t; burning with the grey t gives J back (algebra).
    for (const double t : {0.4, 0.7, 0.9}) {
        const Rgb veiled{0.1 * t + 1 - t, 0.5 * t + 1 - t, 0.8 * t + 1 - t};
        const Rgb got = blended(BlendMode::colourBurn, veiled, {t, t, t});
        EXPECT_NEAR(got[0], 0.1, 1e-5);
        EXPECT_NEAR(got[1], 0.5, 1e-5);
        EXPECT_NEAR(got[2], 0.8, 1e-5);
    }
}

}  // namespace dimhem::kernel
