#include "core/adjust/tone_curve.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "tests/support/adjustments.h"

namespace dimhem::adjust {

namespace {

using colour::EncodedRgb;
using tests::applied;

enum Curve { luminanceCurve, channels, red, green, blue };

Settings curve(Curve which, Table points) {
    Settings settings = neutralSettings(toneCurve);
    settings.tables[which] = std::move(points);
    return settings;
}

}  // namespace

// SciPy's PchipInterpolator (the same slopes, by another hand): tests/data/monotone_spline_values.py.
TEST(MonotoneSpline, AgreesWithAKnownInterpolation) {
    struct Known {
        std::vector<base::Point> points;
        std::vector<double> values;  // at nine places from the first point to the last
    };
    const Known known[] = {
        {{{0, 0}, {25, 15}, {50, 62}, {75, 70}, {100, 100}},
         {0.00000000, 0.04657258, 0.15000000, 0.39633651, 0.62000000, 0.66130144, 0.70000000, 0.81453947, 1.00000000}},
        {{{0, 0}, {30, 55}, {60, 40}, {100, 90}},
         {0.00000000, 0.33449074, 0.53009259, 0.52656250, 0.43888889, 0.40231934, 0.47910156, 0.65109863, 0.90000000}},
        {{{10, 20}, {90, 80}},
         {0.20000000, 0.27500000, 0.35000000, 0.42500000, 0.50000000, 0.57500000, 0.65000000, 0.72500000, 0.80000000}},
        {{{0, 100}, {50, 30}, {100, 0}},
         {1.00000000, 0.78375000, 0.59000000, 0.42625000, 0.30000000, 0.19875000, 0.11000000, 0.04125000, 0.00000000}},
        {{{0, 5}, {8, 40}, {92, 41}, {100, 99}},
         {0.05000000, 0.40132636, 0.40370057, 0.40469235, 0.40499350, 0.40529580, 0.40629104, 0.40867101, 0.99000000}},
    };
    for (const Known& k : known) {
        Table points;
        for (const base::Point& p : k.points) points.insert(points.end(), {p.x, p.y});
        const MonotoneSpline spline = splineOf(points);
        for (std::size_t i = 0; i < 9; ++i) {
            const double first = k.points.front().x / 100, last = k.points.back().x / 100;
            EXPECT_NEAR(spline.at(first + (last - first) * static_cast<double>(i) / 8), k.values[i], 2e-6) << i;
        }
    }
}

TEST(MonotoneSpline, RisesWhereItsPointsRiseAndGoesThroughThem) {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> part(0, 1);
    for (int n = 0; n < 200; ++n) {
        std::vector<base::Point> points;
        double x = 0, y = 0;
        const int count = 2 + n % 15;
        for (int i = 0; i < count; ++i) {
            points.push_back({x, y});
            x += 0.01 + 0.1 * part(random);
            y += 0.2 * part(random) * part(random);
        }
        const MonotoneSpline spline(points);
        for (const base::Point& p : points) ASSERT_NEAR(spline.at(p.x), p.y, 1e-6);
        for (double t = -0.2; t < x; t += 0.002) ASSERT_GE(spline.at(t + 0.002), spline.at(t) - 1e-6) << n << " " << t;
    }
}

TEST(MonotoneSpline, BeyondItsEndsItIsFlatOrGoesOnFromTheEndsOfTheScale) {
    const MonotoneSpline inside = splineOf({10, 20, 90, 80}), whole = splineOf({0, 0, 50, 70, 100, 100});
    EXPECT_NEAR(inside.at(0.02), 0.2, 1e-7);
    EXPECT_NEAR(inside.at(-3), 0.2, 1e-7);
    EXPECT_NEAR(inside.at(2), 0.8, 1e-7);
    const double atEnd = (whole.at(1) - whole.at(1 - 1e-3)) / 1e-3;
    EXPECT_NEAR(whole.at(1.5), 1 + 0.5 * atEnd, 1e-3);
    EXPECT_LT(whole.at(-0.1), -0.1);
}

TEST(ToneCurve, ChannelsFollowTheSplineOverAnyValue) {
    const Table points = {0, 5, 12, 8, 40, 60, 41, 62, 80, 70, 100, 100};
    const MonotoneSpline spline = splineOf(points);
    for (double v = -0.3; v < 1.6; v += 0.003) {
        const EncodedRgb out = applied(toneCurve, curve(channels, points), {v, 0.4, 0.9});
        ASSERT_NEAR(out.r, spline.at(v), 2e-6) << v;
        ASSERT_NEAR(out.b, spline.at(0.9), 2e-6);
    }
}

TEST(ToneCurve, OneChannelAloneIsBent) {
    for (const Curve which : {red, green, blue}) {
        const EncodedRgb out = applied(toneCurve, curve(which, {0, 0, 50, 80, 100, 100}), {0.5, 0.5, 0.5});
        EXPECT_NEAR(out.r, which == red ? 0.8 : 0.5, 1e-6);
        EXPECT_NEAR(out.g, which == green ? 0.8 : 0.5, 1e-6);
        EXPECT_NEAR(out.b, which == blue ? 0.8 : 0.5, 1e-6);
    }
}

TEST(ToneCurve, LuminanceMovesTheToneAndKeepsTheChromaticity) {
    const Table points = {0, 0, 30, 45, 100, 100};
    const EncodedRgb in{0.5, 0.3, 0.2};
    const EncodedRgb out = applied(toneCurve, curve(luminanceCurve, points), in);
    const auto was = colour::linearFromEncoded(in), is = colour::linearFromEncoded(out);
    EXPECT_NEAR(is.r / is.g, was.r / was.g, 1e-4);
    EXPECT_NEAR(is.b / is.g, was.b / was.g, 1e-4);
    EXPECT_NEAR(colour::encodedFromLinear(tests::luminance(out)),
                splineOf(points).at(colour::encodedFromLinear(tests::luminance(in))), 2e-5);
}

TEST(ToneCurve, WantsPointsFromLeftToRight) {
    EXPECT_EQ(toneCurve.invalidReason(neutralSettings(toneCurve)), nullptr);
    EXPECT_EQ(toneCurve.invalidReason(curve(red, {0, 0, 20, 90, 100, 3})), nullptr);
    EXPECT_NE(toneCurve.invalidReason(curve(red, {0, 0, 50, 20, 50, 30})), nullptr);
    EXPECT_TRUE(isNeutral(toneCurve, neutralSettings(toneCurve)));
    EXPECT_FALSE(isNeutral(toneCurve, curve(blue, {0, 1, 100, 100})));
}

}  // namespace dimhem::adjust
