#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/colour/icc.h"
#include "tests/support/profiles.h"

namespace dimhem::colour {

// Little CMS is the reference, at any of the steps and not only where the table was tried.
TEST(MatrixTransform, AgreesWithTheLibraryAllOverTheCube) {
    const auto exact = IccTransform::toWorking(tests::wideProfile(), 3);
    ASSERT_TRUE(exact);
    for (const std::size_t steps : {256u, 65536u}) {
        const auto fast = MatrixTransform::toWorking(*exact, steps);
        ASSERT_TRUE(fast);
        std::mt19937 random(5);
        double worst = 0;
        for (int i = 0; i < 20'000; ++i) {
            float in[3], wanted[3];
            double light[3];
            for (std::size_t c = 0; c < 3; ++c) {
                const std::size_t s = random() % (i % 4 ? steps : steps / 20);
                in[c] = static_cast<float>(s) / static_cast<float>(steps - 1);
                light[c] = double{fast->curves()[c][s]};
            }
            exact->row(in, wanted, 1);
            for (std::size_t r = 0; r < 3; ++r) {
                double found = 0;
                for (std::size_t c = 0; c < 3; ++c) found += double{fast->matrix()[3 * r + c]} * light[c];
                worst = std::max(worst, std::abs(found - double{wanted[r]}));
            }
        }
        EXPECT_LT(worst, 2e-5) << steps;
    }
}

}  // namespace dimhem::colour
