#include "core/colour/white_point.h"

#include <gtest/gtest.h>

#include <cmath>

namespace dimhem::colour {

// CIE 15:2004: chromaticities of the daylight illuminants; their nominal temperatures times 1.4388/1.4380. The table
// comes from rounded spectra: the standard's own formula differs from it by up to 1.3 in the fourth decimal (y of D50:
// 0.35861).
TEST(WhitePoint, DaylightMatchesTheIlluminants) {
    struct Illuminant {
        double nominalK, x, y;
    };
    for (const Illuminant& d : {Illuminant{5000, 0.34567, 0.35850},
                                {5500, 0.33242, 0.34743},
                                {6500, 0.31272, 0.32903},
                                {7500, 0.29902, 0.31485}}) {
        const auto white = daylight(d.nominalK * 1.4388 / 1.4380);
        ASSERT_TRUE(white);
        EXPECT_NEAR(white->x, d.x, 0.00015) << d.nominalK;
        EXPECT_NEAR(white->y, d.y, 0.00015) << d.nominalK;
    }
}

// CIE 15:2004: illuminant A; the cubic approximation is good to a few ten-thousandths.
TEST(WhitePoint, PlanckianMatchesIlluminantA) {
    const auto white = planckian(2856);
    ASSERT_TRUE(white);
    EXPECT_NEAR(white->x, 0.44757, 0.0005);
    EXPECT_NEAR(white->y, 0.40745, 0.0005);
}

TEST(WhitePoint, OutsideItsRangeIsAnError) {
    EXPECT_EQ(daylight(3999).error().code, base::ErrorCode::invalidValue);
    EXPECT_EQ(planckian(26000).error().code, base::ErrorCode::invalidValue);
    EXPECT_FALSE(daylight(std::nan("")));
}

TEST(WhitePoint, SettingIsFoundAgainFromItsWhite) {
    for (const double tempK : {2200.0, 3000.0, 4400.0, 5000.0, 6500.0, 9000.0, 15000.0}) {
        for (const double duv : {-0.02, 0.0, 0.015}) {
            const WhiteSetting found = settingOf(whiteOf({tempK, duv}));
            EXPECT_NEAR(1e6 / found.tempK, 1e6 / tempK, 1.5) << tempK << " " << duv;
            EXPECT_NEAR(found.duv, duv, 0.0004) << tempK << " " << duv;
        }
    }
}

// The D65 to D50 matrix as printed by B. Lindbloom ("Chromatic Adaptation"); 4 decimals.
TEST(Bradford, MatchesThePublishedMatrix) {
    const Matrix3 m = bradford({0.31273, 0.32902}, {0.34567, 0.35850});
    const double expected[3][3] = {
        {1.0478112, 0.0228866, -0.0501270}, {0.0295424, 0.9904844, -0.0170491}, {-0.0092345, 0.0150436, 0.7521316}};
    for (std::size_t r = 0; r < 3; ++r) {
        for (std::size_t c = 0; c < 3; ++c) EXPECT_NEAR(m[r][c], expected[r][c], 0.0002) << r << c;
    }
}

TEST(Bradford, ThereAndBackIsNothing) {
    const Matrix3 m = product(bradford({0.40, 0.39}, {0.31, 0.33}), bradford({0.31, 0.33}, {0.40, 0.39}));
    for (std::size_t r = 0; r < 3; ++r) {
        for (std::size_t c = 0; c < 3; ++c) EXPECT_NEAR(m[r][c], r == c ? 1 : 0, 1e-12);
    }
}

}  // namespace dimhem::colour
