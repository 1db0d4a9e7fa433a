#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <random>
#include <vector>

#include "core/colour/srgb.h"
#include "core/kernel/display_rows.h"
#include "core/kernel/half_rows.h"
#include "core/kernel/mix_rows.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::kernel {

namespace {

double worstError(void (*row)(float*, std::size_t), double (*reference)(double), double from, double to) {
    double worst = 0;
    std::vector<float> values(4096);
    for (std::size_t i = 0; i < values.size(); ++i)
        values[i] = static_cast<float>(from + (to - from) * static_cast<double>(i) / 4095.0);
    std::vector<float> out = values;
    row(out.data(), out.size());
    for (std::size_t i = 0; i < values.size(); ++i) {
        const double expected = reference(double{values[i]});
        worst = std::max(worst, std::abs(out[i] - expected) / std::max(1.0, std::abs(expected)));
    }
    return worst;
}

}  // namespace

TEST(SrgbRows, StayWithinTheirStatedError) {
    for (const auto& [from, to] : {std::pair{-1.0, 1.0}, {0.0, 0.01}, {1.0, 64.0}, {-40.0, -1.0}}) {
        const double encode = worstError(encodeRow, colour::encodedFromLinear, from, to);
        const double decode = worstError(decodeRow, colour::linearFromEncoded, from, to);
        std::printf("[%g, %g] worst encode %.3g decode %.3g\n", from, to, encode, decode);
        EXPECT_LE(encode, srgbMaxError) << from << ".." << to;
        EXPECT_LE(decode, srgbMaxError) << from << ".." << to;
    }
}

TEST(SrgbRows, DoEveryWidthAndTouchNothingBeyond) {
    for (std::size_t width = 0; width <= 70; ++width) {
        for (std::size_t offset = 0; offset < 3; ++offset) {
            std::vector<float> row(width + offset + 1, 0.25f);
            encodeRow(row.data() + offset, width);
            for (std::size_t i = 0; i < width; ++i)
                EXPECT_NEAR(row[offset + i], colour::encodedFromLinear(0.25), srgbMaxError);
            EXPECT_EQ(row.back(), 0.25f);
        }
    }
}

// A pixel's outcome must not depend on what its neighbours make the vector do: tiles would show.
TEST(SrgbRows, NeighboursAboveOneChangeNothing) {
    std::vector<float> alone(16, 0.37f), mixed(16, 0.37f);
    mixed[3] = 5.0f;
    encodeRow(alone.data(), 16);
    encodeRow(mixed.data(), 16);
    for (std::size_t i = 0; i < 16; ++i) {
        if (i != 3) {
            EXPECT_EQ(alone[i], mixed[i]);
        }
    }
}

TEST(SrgbRows, SurviveHostileValues) {
    const float inf = std::numeric_limits<float>::infinity();
    std::vector<float> row = {std::numeric_limits<float>::quiet_NaN(),
                              inf,
                              -inf,
                              std::numeric_limits<float>::denorm_min(),
                              1e30f,
                              -1e30f,
                              0.0f,
                              -0.0f,
                              0.5f};
    encodeRow(row.data(), row.size());
    EXPECT_NEAR(row[8], colour::encodedFromLinear(0.5), srgbMaxError);
    EXPECT_EQ(row[6], 0.0f);
    EXPECT_TRUE(std::isfinite(row[4]));
}

TEST(HalfRows, RoundToNearestHalf) {
    std::vector<float> values;
    for (int i = 0; i < 77; ++i) values.push_back(static_cast<float>(i) / 76);
    std::vector<std::uint16_t> half(values.size());
    std::vector<float> back(values.size());
    halfFromFloat(values.data(), half.data(), values.size());
    floatFromHalf(half.data(), back.data(), values.size());
    for (std::size_t i = 0; i < values.size(); ++i) EXPECT_NEAR(back[i], values[i], 1.0 / 4096);
    EXPECT_EQ(half[76], 0x3c00);  // 1.0 in IEEE 754 binary16
    EXPECT_EQ(half[0], 0);
}

TEST(MixRow, FullCoverageAtFullStrengthGivesTheBitsOfWhatIsCorrected) {
    std::mt19937 random(4);
    std::uniform_real_distribution<float> colour(-0.2f, 1.5f);
    std::vector<float> picture(200), corrected(200);
    const std::vector<std::uint16_t> full(200, 65535);
    for (const std::uint16_t* coverage : {full.data(), static_cast<const std::uint16_t*>(nullptr)}) {
        for (float& v : picture) v = colour(random);
        for (float& v : corrected) v = colour(random);
        mixRow({picture.data(), picture.data() + 60, picture.data() + 120},
               {corrected.data(), corrected.data() + 60, corrected.data() + 120}, coverage, 1, 60);
        EXPECT_TRUE(std::equal(picture.begin(), picture.begin() + 180, corrected.begin()));
    }
}

TEST(MixRow, MatchesTheFormulaAndKeepsUncoveredBits) {
    std::mt19937 random(3);
    std::uniform_real_distribution<float> colour(-0.2f, 1.5f);
    for (const std::size_t width : {1u, 7u, 16u, 33u, 128u}) {
        std::vector<float> picture(width), before, corrected(width);
        std::vector<std::uint16_t> coverage(width);
        for (std::size_t i = 0; i < width; ++i) {
            picture[i] = colour(random);
            corrected[i] = colour(random);
            coverage[i] = static_cast<std::uint16_t>(i % 3 == 0 ? 0 : random());
        }
        before = picture;
        std::vector<float> green = picture, blue = picture;
        mixRow({picture.data(), green.data(), blue.data()}, {corrected.data(), corrected.data(), corrected.data()},
               coverage.data(), 0.7f, width);
        for (std::size_t i = 0; i < width; ++i) {
            const double expected = before[i] + (double{corrected[i]} - before[i]) * coverage[i] / 65535 * 0.7f;
            EXPECT_NEAR(picture[i], expected, 1e-6);
            if (coverage[i] == 0) {
                EXPECT_EQ(picture[i], before[i]);
            }
            EXPECT_EQ(green[i], picture[i]);
            EXPECT_EQ(blue[i], picture[i]);
        }
    }
}

TEST(DisplayRow, RoundsAndClips) {
    const float red[] = {0.0f, 1.0f, -3.0f, 9.0f, 0.5f}, green[] = {0.2f, 0.2f, 0.2f, 0.2f, 0.2f},
                blue[] = {1, 1, 1, 1, 1};
    std::uint32_t out[5];
    displayRow({red, green, blue}, out, 5);
    EXPECT_EQ(out[0], 0xff0033ffu);
    EXPECT_EQ(out[1], 0xffff33ffu);
    EXPECT_EQ(out[2], 0xff0033ffu);
    EXPECT_EQ(out[3], 0xffff33ffu);
    EXPECT_EQ(out[4], 0xff8033ffu);
}

TEST(DisplayRow, GivesEvery8BitValueBack) {
    for (int v = 0; v < 256; ++v) {
        const float sample = static_cast<float>(v) / 255.0f;
        std::uint32_t out = 0;
        displayRow({&sample, &sample, &sample}, &out, 1);
        EXPECT_EQ(out & 0xff, static_cast<std::uint32_t>(v));
    }
}

}  // namespace dimhem::kernel
