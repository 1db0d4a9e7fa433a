#include "core/adjust/curve_table.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/adjust/light.h"
#include "core/adjust/tone_curve.h"
#include "tests/support/adjustments.h"
#include "tests/support/reference.h"

namespace dimhem::adjust {

namespace {

double at(const CurveTable& table, double x) {
    std::size_t i = 0;
    while (i + 1 < CurveTable::most && x >= double{table.from[i + 1]}) ++i;
    const double u = x - double{table.from[i]};
    if (u < 0) return double{table.c0[0]} + u * double{table.slopeBefore};
    return double{table.c0[i]} + u * (double{table.c1[i]} + u * (double{table.c2[i]} + u * double{table.c3[i]}));
}

Table randomCurve(std::mt19937& random, std::size_t points, double farApart = 6) {
    Table table;
    double in = 0;
    for (std::size_t i = 0; i < points; ++i) {
        in += farApart * (0.1 + 0.9 * static_cast<double>(random() % 100) / 100);
        table.insert(table.end(), {in, static_cast<double>(random() % 101)});
    }
    return table;
}

// What becomes of greys.
std::vector<float> greys(const AdjustmentKind& kind, const Settings& settings, const std::vector<double>& tones) {
    std::vector<float> r(tones.begin(), tones.end()), g = r, b = r;
    apply(kind.prepare(settings), {r.data(), g.data(), b.data()}, r.size());
    return g;
}

}  // namespace

TEST(CurveTable, HoldsASplineOfAnyNumberOfPoints) {
    std::mt19937 random(3);
    for (std::size_t points = 2; points <= CurveTable::most; ++points) {
        const Table table = randomCurve(random, points);
        const MonotoneSpline spline = splineOf(table);
        Settings settings = neutralSettings(toneCurve);
        settings.tables[1] = table;
        for (double x = -0.5; x < 1.6; x += 0.0031) {
            EXPECT_NEAR(at(tableOf(spline), x), spline.at(x), 1e-6) << points << " points at " << x;
            EXPECT_NEAR(tests::applied(toneCurve, settings, {x, x, x}).g, spline.at(x), 2e-6) << points << " at " << x;
        }
    }
}

TEST(CurveTable, TheCurveOfLightIsThatOfTheEncodedLuminance) {
    std::mt19937 random(4);
    double worst = 0;
    for (int round = 0; round < 60; ++round) {
        Table table = randomCurve(random, 2 + random() % 4, 20);
        for (std::size_t i = 1; i < table.size(); i += 2) table[i] = (table[i] + 3 * table[i - 1]) / 4;  // not steep
        const MonotoneSpline spline = splineOf(table);
        Settings settings = neutralSettings(toneCurve);
        settings.tables[0] = table;
        // Greys: what the luminance becomes is what each channel becomes.
        std::vector<double> tones;
        for (double x = 0; x <= 1.3; x += 0.0017) tones.push_back(x);
        const std::vector<float> made = greys(toneCurve, settings, tones);
        for (std::size_t i = 0; i < tones.size(); ++i)
            worst = std::max(worst, std::abs(double{made[i]} - spline.at(tones[i])));
    }
    std::printf("at most %.2f of 65535\n", worst * 65535);
    EXPECT_LT(worst * 65535, 0.7);
}

// To a step of 16 bits wherever the steps of Light are composed.
TEST(CurveTable, LightComposedIsTheStepsOneAfterTheOther) {
    std::mt19937 random(5);
    const auto part = [&] { return static_cast<double>(random() % 2001) / 1000 - 1; };
    double worst = 0, worstBeyond = 0;
    for (int round = 0; round < 300; ++round) {
        tests::ReferenceLight reference;
        reference.exposure = 2 * part();
        reference.contrast = 60 * part();
        reference.lift = 60 * part();
        reference.hold = round % 3 ? 0 : 100 * std::abs(part());
        reference.black = 10 * part();
        reference.white = 100 + 20 * part();
        reference.midtone = 60 * part();
        const Settings settings({reference.exposure, reference.contrast, reference.lift, reference.hold,
                                 reference.black, reference.white, reference.midtone, 0});
        std::vector<double> tones;
        for (int i = -60; i <= 360; ++i)
            tones.push_back(static_cast<double>(static_cast<float>(i / 300.0 + 1e-4 * part())));
        const std::vector<float> made = greys(light, settings, tones);
        for (std::size_t i = 0; i < tones.size(); ++i) {
            const double v = tones[i], expected = reference({v, v, v}).g;
            double& most = v >= 0 && v <= 1 ? worst : worstBeyond;
            most = std::max(most, std::abs(double{made[i]} - expected) / std::max(1.0, std::abs(expected)));
        }
    }
    std::printf("at most %.2f of 65535, beyond 0..1 %.2f\n", worst * 65535, worstBeyond * 65535);
    EXPECT_LT(worst * 65535, 1);
    EXPECT_LT(worstBeyond * 65535, 3);  // by the steps themselves
}

TEST(CurveTable, PiecesMeetAndBreaksAreKept) {
    const auto kinked = [](double x) { return x < 0.3 ? x : 0.3 + 3 * (x - 0.3); };
    const auto table = fittedTable(kinked, {0.3});
    ASSERT_TRUE(table);
    for (std::size_t i = 1; i < CurveTable::most && std::isfinite(table->from[i]); ++i) {
        const double border = double{table->from[i]};
        EXPECT_NEAR(at(*table, std::nextafter(border, 0.0)), at(*table, border), 1e-6);
    }
    for (double x = 0; x <= 1; x += 0.001) EXPECT_NEAR(at(*table, x), kinked(x), 1e-6) << x;
}

TEST(CurveTable, WhatTakesTooManyPiecesIsNone) {
    EXPECT_FALSE(fittedTable([](double x) { return std::sin(200 * x); }, {}));
}

}  // namespace dimhem::adjust
