#include "core/adjust/white_balance.h"

#include <gtest/gtest.h>

#include "core/colour/srgb.h"

namespace dimhem::adjust {

namespace {

colour::LinearRgb balanced(const std::vector<double>& values, const colour::LinearRgb& in) {
    const colour::EncodedRgb e = colour::encodedFromLinear(in);
    float r = static_cast<float>(e.r), g = static_cast<float>(e.g), b = static_cast<float>(e.b);
    whiteBalance.prepare(values)->row({&r, &g, &b}, 1);
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
        const auto out = balanced(whiteBalanceFor(cast), cast);
        EXPECT_NEAR(out.r / out.g, 1, 0.004) << cast.r;
        EXPECT_NEAR(out.b / out.g, 1, 0.004) << cast.r;
    }
}

TEST(WhiteBalanceAdjustment, NothingToPickGivesTheNeutralSetting) {
    EXPECT_EQ(whiteBalanceFor({0, 0, 0}), neutralValues(whiteBalance));
}

TEST(WhiteBalanceAdjustment, PickedValuesStayWithinTheirRanges) {
    const auto values = whiteBalanceFor({1, 0.01, 0.0});
    for (std::size_t i = 0; i < values.size(); ++i) EXPECT_TRUE(base::inRange(whiteBalance.params[i], values[i]));
}

}  // namespace dimhem::adjust
