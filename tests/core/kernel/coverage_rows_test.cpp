#include "core/kernel/coverage_rows.h"

#include <gtest/gtest.h>

#include <cmath>

namespace dimhem::kernel {

namespace {

// Porter and Duff 1984, on real numbers.
double exact(std::uint32_t v) {
    return v / 65535.0;
}

const std::uint16_t some[] = {0, 1, 2, 100, 1234, 16384, 32767, 32768, 43690, 60000, 65533, 65534, 65535};

}  // namespace

TEST(CoverageAlgebra, RoundsToNearest) {
    for (const std::uint32_t a : some) {
        for (const std::uint32_t b : some) {
            EXPECT_NEAR(coverageProduct(a, b), exact(a) * exact(b) * 65535, 0.5001);
            EXPECT_NEAR(coverageAdd(a, b), (exact(a) + exact(b) - exact(a) * exact(b)) * 65535, 0.5001);
            EXPECT_NEAR(coverageSubtract(a, b), exact(a) * (1 - exact(b)) * 65535, 0.5001);
        }
    }
}

TEST(CoverageAlgebra, Identities) {
    for (const std::uint16_t a : some) {
        EXPECT_EQ(coverageAdd(a, 0), a);
        EXPECT_EQ(coverageAdd(a, 65535), 65535);
        EXPECT_EQ(coverageSubtract(a, 0), a);
        EXPECT_EQ(coverageSubtract(a, 65535), 0);
        EXPECT_EQ(coverageProduct(a, 65535), a);
        EXPECT_EQ(coverageProduct(a, 0), 0);
        for (const std::uint16_t b : some) {
            EXPECT_EQ(coverageProduct(a, b), coverageProduct(b, a));
            EXPECT_NEAR(coverageAdd(a, b), coverageAdd(b, a), 1);
            // De Morgan: adding is what is left outside of what both leave out.
            EXPECT_NEAR(coverageAdd(a, b), 65535 - coverageProduct(65535u - a, 65535u - b), 1);
        }
    }
}

TEST(CoverageRows, AgreeWithTheSingleFunctions) {
    std::uint16_t added[13], taken[13], shared[13], part[13];
    for (int i = 0; i < 13; ++i) {
        added[i] = taken[i] = shared[i] = some[i];
        part[i] = some[12 - i];
    }
    addRow(added, part, 13);
    subtractRow(taken, part, 13);
    overlapRow(shared, part, 13);
    for (int i = 0; i < 13; ++i) {
        EXPECT_EQ(added[i], coverageAdd(some[i], part[i]));
        EXPECT_EQ(taken[i], coverageSubtract(some[i], part[i]));
        EXPECT_EQ(shared[i], coverageProduct(some[i], part[i]));
    }
}

TEST(CoverageRows, APartIsFlippedBeforeItsOpacity) {
    std::uint16_t part[] = {0, 65535};
    preparePartRow(part, true, 32768, 2);
    EXPECT_EQ(part[0], 32768);
    EXPECT_EQ(part[1], 0);
}

}  // namespace dimhem::kernel
