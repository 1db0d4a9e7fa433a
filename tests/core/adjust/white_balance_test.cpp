#include "core/adjust/white_balance.h"

#include <gtest/gtest.h>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/colour/white_point.h"

namespace dimhem::adjust {

namespace {

colour::LinearRgb balanced(const std::vector<double>& values, const colour::LinearRgb& in) {
    const colour::EncodedRgb e = colour::encodedFromLinear(in);
    float r = static_cast<float>(e.r), g = static_cast<float>(e.g), b = static_cast<float>(e.b);
    apply(whiteBalance.prepare(values), {&r, &g, &b}, 1);
    return colour::linearFromEncoded(colour::EncodedRgb{r, g, b});
}

}  // namespace

TEST(WhiteBalanceAdjustment, HigherTemperatureWarms) {
    const auto warm = balanced({8000, 0}, {0.2, 0.2, 0.2}), cool = balanced({5000, 0}, {0.2, 0.2, 0.2});
    EXPECT_GT(warm.r, warm.b);
    EXPECT_LT(cool.r, cool.b);
}

TEST(WhiteBalanceAdjustment, PositiveTintGoesToMagenta) {
    const auto magenta = balanced({6500, 20}, {0.2, 0.2, 0.2});
    EXPECT_LT(magenta.g, magenta.r);
    EXPECT_LT(magenta.g, magenta.b);
}

TEST(WhiteBalanceAdjustment, NeutralAndNextToItAreTheSameToTheEye) {
    const auto out = balanced({6501, 0}, {0.3, 0.2, 0.1});
    EXPECT_NEAR(out.r, 0.3, 2e-4);
    EXPECT_NEAR(out.g, 0.2, 2e-4);
    EXPECT_NEAR(out.b, 0.1, 2e-4);
}

TEST(WhiteBalanceAdjustment, PickedColourBecomesNeutral) {
    const colour::LinearRgb casts[] = {{0.22, 0.20, 0.17}, {0.15, 0.20, 0.26}, {0.20, 0.23, 0.19}, {0.4, 0.3, 0.15}};
    for (const colour::LinearRgb& cast : casts) {
        const auto out = balanced(whiteBalance.neutralising(cast, 0).values, cast);
        EXPECT_NEAR(out.r / out.g, 1, 0.004) << cast.r;
        EXPECT_NEAR(out.b / out.g, 1, 0.004) << cast.r;
    }
}

TEST(WhiteBalanceAdjustment, NothingToPickGivesTheNeutralSetting) {
    EXPECT_EQ(whiteBalance.neutralising({0, 0, 0}, 0).values, neutralValues(whiteBalance));
}

TEST(WhiteBalanceAdjustment, PickedValuesStayWithinTheirRanges) {
    const auto values = whiteBalance.neutralising({1, 0.01, 0.0}, 0).values;
    for (std::size_t i = 0; i < values.size(); ++i) EXPECT_TRUE(base::inRange(whiteBalance.params[i], values[i]));
}

namespace {

// The published sRGB values of the classic 24-patch chart; quoted from memory.
constexpr int chart[24][3] = {{115, 82, 68},   {194, 150, 130}, {98, 122, 157}, {87, 108, 67},   {133, 128, 177},
                              {103, 189, 170}, {214, 126, 44},  {80, 91, 166},  {193, 90, 99},   {94, 60, 108},
                              {157, 188, 64},  {224, 163, 46},  {56, 61, 150},  {70, 148, 73},   {175, 54, 60},
                              {231, 199, 31},  {187, 86, 149},  {8, 133, 161},  {243, 243, 242}, {200, 200, 200},
                              {160, 160, 160}, {122, 122, 121}, {85, 85, 85},   {52, 52, 52}};
constexpr std::size_t middleGrey = 21;

colour::LinearRgb patch(std::size_t i) {
    return colour::linearFromEncoded(colour::EncodedRgb{chart[i][0] / 255.0, chart[i][1] / 255.0, chart[i][2] / 255.0});
}

// The chart under another light, by Bradford adaptation from D65 to its chromaticity.
colour::LinearRgb underLight(const colour::LinearRgb& c, const colour::Chromaticity& light) {
    const colour::Matrix3 m = colour::bradford({0.31272, 0.32903}, light);
    const colour::Xyz xyz = colour::xyzFromLinear(c);
    const double v[3] = {xyz.x, xyz.y, xyz.z};
    double w[3];
    for (std::size_t i = 0; i < 3; ++i) w[i] = m[i][0] * v[0] + m[i][1] * v[1] + m[i][2] * v[2];
    return colour::linearFromXyz({w[0], w[1], w[2]});
}

}  // namespace

// Chromaticities: CIE 15 (illuminant A, D50, D75), and a greenish light off the locus.
TEST(WhiteBalanceAdjustment, TheChartComesBackFromACast) {
    const colour::Chromaticity lights[] = {{0.44757, 0.40745}, {0.34567, 0.35850}, {0.29902, 0.31485}, {0.33, 0.37}};
    for (const colour::Chromaticity& light : lights) {
        const std::vector<double> values = whiteBalance.neutralising(underLight(patch(middleGrey), light), 0).values;
        double before = 0, after = 0;
        for (std::size_t i = 0; i < std::size(chart); ++i) {
            const colour::LinearRgb cast = underLight(patch(i), light);
            const colour::Lab truth = colour::labFromLinear(patch(i));
            before += colour::ciede2000(colour::labFromLinear(cast), truth) / 24;
            after += colour::ciede2000(colour::labFromLinear(balanced(values, cast)), truth) / 24;
        }
        std::printf("light (%.3f, %.3f): mean CIEDE2000 %.2f -> %.3f\n", light.x, light.y, before, after);
        EXPECT_GT(before, 2);
        EXPECT_LT(after, 1);
    }
}

TEST(WhiteBalanceAdjustment, APickCanLeaveATouch) {
    const colour::LinearRgb cast{0.24, 0.20, 0.15};
    const auto out = balanced(whiteBalance.neutralising(cast, 0.1).values, cast);
    EXPECT_NEAR((out.r - out.b) / (cast.r - cast.b), 0.1, 0.03);
}

}  // namespace dimhem::adjust
