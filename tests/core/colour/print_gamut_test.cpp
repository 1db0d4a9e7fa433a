#include "core/colour/print_gamut.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/colour/lab.h"

namespace dimhem::colour {

TEST(PrintGamut, IsOneAtTheSolidsAndLessWithin) {
    // The solids of offset on coated paper (ISO 12647-2; from memory, to be confirmed).
    for (const Lab& solid : {Lab{48, 74, -3}, Lab{47, 68, 48}, Lab{89, -5, 93}, Lab{50, -65, 27}, Lab{55, -37, -50},
                             Lab{24, 17, -46}, Lab{100, 0, 0}, Lab{0, 0, 0}}) {
        EXPECT_NEAR(printReach(solid), 1, 1e-6) << solid.l << " " << solid.a << " " << solid.b;
        const Lab half{(solid.l + 55) / 2, solid.a / 2, solid.b / 2};
        EXPECT_NEAR(printReach(half), 0.5, 1e-6);
    }
    EXPECT_EQ(printReach({55, 0, 0}), 0);
}

TEST(PrintGamut, ScreensShowMoreThanInks) {
    EXPECT_GT(printReach(labFromEncoded({0, 1, 0})), 1.1) << "the green of a screen";
    EXPECT_GT(printReach(labFromEncoded({0, 0, 1})), 1.1);
    EXPECT_LT(printReach(labFromEncoded({0.55, 0.42, 0.34})), 0.7) << "skin, wood, brick";
    EXPECT_LT(printReach(labFromEncoded({0.5, 0.5, 0.5})), 0.2);
}

// Continuous: a small step of the colour is a small step of the reach, faces met at their borders or not.
TEST(PrintGamut, HasNoJumps) {
    double largest = 0;
    for (double l = 5; l < 100; l += 5) {
        double last = printReach({l, 60, 0});
        for (double deg = 0.25; deg <= 360; deg += 0.25) {
            const double turn = deg * 3.14159265358979 / 180;
            const double now = printReach({l, 60 * std::cos(turn), 60 * std::sin(turn)});
            EXPECT_GT(now, 0) << l << " " << deg << ": every direction meets a face";
            largest = std::max(largest, std::abs(now - last));
            last = now;
        }
    }
    EXPECT_LT(largest, 0.05);
}

}  // namespace dimhem::colour
