#include "core/colour/srgb.h"

#include <gtest/gtest.h>

namespace dimhem::colour {

// IEC 61966-2-1.
TEST(Srgb, MatchesTheStandardsValues) {
    EXPECT_NEAR(encodedFromLinear(0.5), 0.735357, 1e-6);
    EXPECT_NEAR(linearFromEncoded(0.735357), 0.5, 1e-6);
    EXPECT_NEAR(encodedFromLinear(0.0031308), 0.04045, 1e-5);
    EXPECT_NEAR(linearFromEncoded(0.04045), 0.0031308, 1e-6);
    EXPECT_DOUBLE_EQ(encodedFromLinear(1), 1);
    EXPECT_DOUBLE_EQ(encodedFromLinear(0), 0);
}

TEST(Srgb, IsOddBelowZeroAndGoesOnAboveOne) {
    EXPECT_DOUBLE_EQ(encodedFromLinear(-0.5), -encodedFromLinear(0.5));
    EXPECT_NEAR(linearFromEncoded(encodedFromLinear(7.5)), 7.5, 1e-12);
}

TEST(Srgb, RoundTripCloses) {
    for (double v = -1; v <= 2; v += 0.0037) EXPECT_NEAR(linearFromEncoded(encodedFromLinear(v)), v, 2e-6);
}

}  // namespace dimhem::colour
