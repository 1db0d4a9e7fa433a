#include "core/adjust/banding.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <random>

namespace dimhem::adjust {
namespace {

constexpr base::Size size{256, 192};

using Value = std::function<double(int x, int y)>;  // levels of 255

image::EncodedPlanes pictureOf(const Value& red, const Value& green, const Value& blue) {
    const auto plane = [](const Value& value) {
        return image::planeOf(size, [&](int x, int y) { return static_cast<float>(value(x, y) / 255); });
    };
    image::EncodedPlanes out;
    out.red = plane(red);
    out.green = plane(green);
    out.blue = plane(blue);
    return out;
}

// A sky whose bands are some twenty pixels wide.
Value slope(double from, double step = 4) {
    return [=](int x, int y) { return from + step * (0.05 * x + 0.013 * y + std::sin(y * 0.02)); };
}

Value inSteps(const Value& value, double step, double phase = 0) {
    return [=](int x, int y) { return phase + step * std::round((value(x, y) - phase) / step); };
}

image::EncodedPlanes banded(double step) {
    return pictureOf(inSteps(slope(80, step), step), inSteps(slope(100, step), step),
                     inSteps(slope(140, step), step, 1));
}

BandingSteps stepsOf(const image::EncodedPlanes& picture) {
    StepMeter meter;
    meter.add(picture);
    return meter.steps();
}

class BandingStepFound : public testing::TestWithParam<double> {};

TEST_P(BandingStepFound, ToATwentiethOfALevel) {
    const double step = GetParam();
    const BandingSteps found = stepsOf(banded(step));
    for (const BandingStep& channel : found) {
        EXPECT_NEAR(channel.step, step, 0.05);
        EXPECT_LT(channel.grain, 0.1);
    }
    // The rungs, phase + n step, where there are any.
    const double rung = 1 + step * std::round(165 / step);
    EXPECT_NEAR(std::remainder(rung - found[2].phase, found[2].step), 0, 0.15 * step);
}

INSTANTIATE_TEST_SUITE_P(Steps, BandingStepFound, testing::Values(1.0, 1.5, 2.0, 3.0, 4.0, 6.0));

TEST(BandingSteps, AreFoundUnderGrain) {
    for (const double step : {3.0, 4.0, 6.0}) {
        std::mt19937 random(2);
        std::normal_distribution<double> grain(0, 1.5);
        const auto noisy = [&](const Value& value) {
            return [&, value](int x, int y) { return std::round(value(x, y) + grain(random)); };
        };
        const BandingSteps found = stepsOf(pictureOf(noisy(inSteps(slope(80), step)), noisy(inSteps(slope(100), step)),
                                                     noisy(inSteps(slope(140), step))));
        for (const BandingStep& channel : found) {
            EXPECT_NEAR(channel.step, step, 0.1);
            EXPECT_NEAR(channel.grain, 1.5, 0.4);
        }
    }
}

// Kinds of pictures without bands: nothing is found, so nothing can change.
class WithoutBands : public testing::TestWithParam<int> {};

TEST_P(WithoutBands, NoStepIsFound) {
    std::mt19937 random(static_cast<std::uint32_t>(GetParam()));
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> any(0, 1);
    const double tilt = any(random), waves = 0.01 + 0.08 * any(random), sigma = 0.6 + 3 * any(random);
    const auto rounded = [&](double from) -> Value {
        return [&, from](int x, int y) {
            const double texture = 12 * std::sin(x * waves) * std::cos(y * waves * 1.7);
            return std::round(from + 0.3 * tilt * x + texture + sigma * normal(random));
        };
    };
    for (const BandingStep& channel : stepsOf(pictureOf(rounded(60), rounded(90), rounded(110))))
        EXPECT_EQ(channel.step, 0) << "tilt " << tilt << ", waves " << waves << ", sigma " << sigma;
}

INSTANTIATE_TEST_SUITE_P(Kinds, WithoutBands, testing::Range(0, 10));

TEST(BandingSteps, OneChannelAloneIsNoBanding) {
    std::mt19937 random(4);
    std::normal_distribution<double> grain(0, 2);
    const auto noisy = [&](int x, int y) { return std::round(slope(100)(x, y) + grain(random)); };
    for (const BandingStep& channel : stepsOf(pictureOf(inSteps(slope(80), 4), noisy, noisy)))
        EXPECT_EQ(channel.step, 0);
}

TEST(BandingAdjustment, IsNeutralWithoutSteps) {
    Settings settings = neutralSettings(banding);
    settings.values[0] = 100;
    EXPECT_TRUE(isNeutral(banding, settings)) << "not measured yet";
    EXPECT_TRUE(lacksMeasuring(banding, settings));
    settings.tables = {{0, 0, 0, 0.4, 1, 0, 0, 0.4, 2, 0, 0, 0.4}};
    EXPECT_FALSE(lacksMeasuring(banding, settings));
    EXPECT_TRUE(isNeutral(banding, settings)) << "none found";
    settings.tables[0][1] = 4;
    EXPECT_FALSE(isNeutral(banding, settings));
    settings.tables[0][0] = 0.5;
    EXPECT_FALSE(isValid(banding, settings));
}

}  // namespace
}  // namespace dimhem::adjust
