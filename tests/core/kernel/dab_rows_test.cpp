#include "core/kernel/dab_rows.h"

#include <gtest/gtest.h>

#include <vector>

#include "tests/support/reference.h"

namespace dimhem::kernel {

TEST(DabRow, MatchesTheReferenceForEverySoftnessAndSize) {
    double worst = 0;
    for (const double radius : {0.5, 1.0, 3.7, 40.0, 150.0}) {
        for (const double softness : {0.0, 0.3, 1.0}) {
            for (const double build : {1.0, 0.2}) {
                const DabShape dab{20.3, 1.8, radius, softness, 0.9, build};
                for (int y = 0; y < 4; ++y) {
                    std::vector<float> row(61, 0.1f);
                    dabRow(dab, y, -7, row.data(), row.size());
                    for (std::size_t i = 0; i < row.size(); ++i) {
                        const double expected =
                            tests::referenceDab(dab, static_cast<double>(i) - 7 + 0.5, y + 0.5, 0.1f);
                        worst = std::max(worst, std::abs(row[i] - expected));
                    }
                }
            }
        }
    }
    std::printf("worst difference %.3g\n", worst);
    EXPECT_LT(worst, 2e-5);
}

TEST(DabSpan, HoldsEveryPixelTheDabTouches) {
    for (const double radius : {0.5, 2.2, 17.0}) {
        const DabShape dab{31.4, 30.9, radius, 0.5, 1, 1};
        for (int y = 0; y < 64; ++y) {
            std::vector<float> row(64, 0.0f);
            dabRow(dab, y, 0, row.data(), row.size());
            const DabSpan span = dabSpan(dab, y);
            for (int x = 0; x < 64; ++x) {
                if (row[static_cast<std::size_t>(x)] > 0) {
                    EXPECT_TRUE(x >= span.first && x < span.last) << x << " " << y;
                }
            }
        }
    }
}

TEST(DabRow, NeverGoesBeyondItsProfileHoweverOften) {
    const DabShape dab{8, 0.5, 6, 1.0, 0.5, 0.3};
    std::vector<float> row(16, 0.0f);
    for (int i = 0; i < 50; ++i) dabRow(dab, 0, 0, row.data(), row.size());
    for (std::size_t i = 0; i < row.size(); ++i) {
        const double ceiling = tests::referenceDab({8, 0.5, 6, 1.0, 0.5, 1}, static_cast<double>(i) + 0.5, 0.5, 0);
        EXPECT_NEAR(row[i], ceiling, 1e-5);
    }
}

TEST(DabRow, SoftnessHundredReachesZeroSmoothlyAtTheRim) {
    const DabShape dab{0, 0.5, 100, 1.0, 1, 1};
    std::vector<float> row(110, 0.0f);
    dabRow(dab, 0, 0, row.data(), row.size());
    EXPECT_EQ(row[101], 0.0f);
    for (std::size_t i = 90; i < 100; ++i) EXPECT_LT(row[i] - row[i + 1], 0.01f);  // no step that would show as a ring
}

TEST(LayRow, TwoPassesOfAHalfMakeThreeQuarters) {
    const float stroke[] = {1.0f};
    std::uint16_t coverage[] = {0};
    layRow(stroke, 0.5f, false, coverage, 1);
    layRow(stroke, 0.5f, false, coverage, 1);
    EXPECT_NEAR(coverage[0] / 65535.0, 0.75, 1e-4);  // common practice
    layRow(stroke, 1.0f, true, coverage, 1);
    EXPECT_EQ(coverage[0], 0);
}

namespace {

std::vector<std::uint16_t> laidBy(const std::vector<float>& stroke, float strength) {
    std::vector<std::uint16_t> laid(stroke.size(), 0);
    layRow(stroke.data(), strength, false, laid.data(), laid.size());
    return laid;
}

std::uint16_t heldOnce(double covered, double held, float stroke, float strength, bool removes) {
    auto coverage = static_cast<std::uint16_t>(std::lround(covered * 65535));
    const auto belongs = static_cast<std::uint16_t>(std::lround(held * 65535));
    layHeldRow(laidBy({stroke}, strength).data(), &belongs, removes, &coverage, 1);
    return coverage;
}

}  // namespace

TEST(LayHeldRow, GoesTowardsWhatBelongsAndNeverPastIt) {
    for (const double held : {0.0, 0.3, 0.5, 1.0}) {
        for (const double covered : {0.0, 0.2, 0.6, 1.0}) {
            for (const float s : {0.0f, 0.4f, 1.0f}) {
                const double up = covered < held ? covered + double{s} * (held - covered) : covered;
                EXPECT_NEAR(heldOnce(covered, held, s, 1, false) / 65535.0, up, 3e-5);
                EXPECT_NEAR(heldOnce(covered, held, 1, s, false) / 65535.0, up, 3e-5) << "strength and stroke multiply";
                const double least = 1 - held;
                const double down = covered > least ? covered - double{s} * (covered - least) : covered;
                EXPECT_NEAR(heldOnce(covered, held, s, 1, true) / 65535.0, down, 3e-5);
            }
        }
    }
}

TEST(LayHeldRow, PaintingOnOverASoftEdgeNeverHardensIt) {
    std::vector<std::uint16_t> held(64), coverage(64, 0);
    for (std::size_t i = 0; i < held.size(); ++i) held[i] = static_cast<std::uint16_t>(65535 * i / 63);
    const std::vector<std::uint16_t> laid = laidBy(std::vector<float>(64, 0.7f), 1);
    for (int n = 0; n < 60; ++n) layHeldRow(laid.data(), held.data(), false, coverage.data(), coverage.size());
    for (std::size_t i = 0; i < held.size(); ++i) EXPECT_NEAR(coverage[i], held[i], 2) << i;
}

TEST(LayHeldRow, WhereAllBelongsItIsThePlainBrush) {
    std::vector<std::uint16_t> plain(50), held(50), all(50, 65535);
    std::vector<float> stroke(50);
    for (std::size_t i = 0; i < 50; ++i) {
        plain[i] = held[i] = static_cast<std::uint16_t>(1300 * i);
        stroke[i] = static_cast<float>(i % 11) / 10;
    }
    for (const bool removes : {false, true}) {
        layRow(stroke.data(), 0.8f, removes, plain.data(), 50);
        layHeldRow(laidBy(stroke, 0.8f).data(), all.data(), removes, held.data(), 50);
        for (std::size_t i = 0; i < 50; ++i) EXPECT_NEAR(plain[i], held[i], 1) << i;
    }
}

}  // namespace dimhem::kernel
