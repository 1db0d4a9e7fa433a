// The mixing laws against their formulas, in double.
#include "core/kernel/mix_rows.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <vector>

#include "core/colour/srgb.h"

namespace dimhem::kernel {
namespace {

struct Pixels {
    std::vector<float> red, green, blue;
    EncodedRow row() { return {red.data(), green.data(), blue.data()}; }
};

Pixels random(std::size_t count, std::uint32_t seed, double from = 0.02) {
    std::mt19937 numbers(seed);
    std::uniform_real_distribution<double> any(from, 1);
    Pixels pixels;
    for (std::vector<float>* channel : {&pixels.red, &pixels.green, &pixels.blue}) {
        for (std::size_t i = 0; i < count; ++i) channel->push_back(static_cast<float>(any(numbers)));
    }
    return pixels;
}

constexpr std::size_t count = 1003;

double mixed(MixingLaw law, double p, double j, double m) {
    const double below = colour::linearFromEncoded(p), above = colour::linearFromEncoded(j);
    return colour::encodedFromLinear(law == MixingLaw::light ? (1 - m) * below + m * above
                                                             : 1 / ((1 - m) / below + m / above));
}

class MixingLaws : public testing::TestWithParam<MixingLaw> {};

TEST_P(MixingLaws, AreTheirFormulas) {
    Pixels picture = random(count, 1), corrected = random(count, 2);
    const Pixels below = picture, above = corrected;
    std::vector<std::uint16_t> coverage;
    for (std::size_t i = 0; i < count; ++i) coverage.push_back(static_cast<std::uint16_t>(i * 65535 / (count - 1)));
    mixRowInLight(GetParam(), picture.row(), corrected.row(), coverage.data(), 0.8f, count);
    for (std::size_t i = 0; i < count; ++i) {
        const double m = 0.8 * coverage[i] / 65535;
        EXPECT_NEAR(picture.green[i], mixed(GetParam(), double{below.green[i]}, double{above.green[i]}, m), 1.0 / 65535)
            << m;
    }
    EXPECT_EQ(picture.red[0], below.red[0]) << "not covered: the same bits";
}

TEST_P(MixingLaws, BlackAndPushingGiveNumbers) {
    Pixels picture = random(count, 3, -0.1), corrected = random(count, 4, -0.1);
    picture.red[5] = 0;
    corrected.red[7] = 0;
    mixRowInLight(GetParam(), picture.row(), corrected.row(), nullptr, 3, count);
    for (std::size_t i = 0; i < count; ++i) {
        EXPECT_TRUE(std::isfinite(picture.red[i] + picture.green[i] + picture.blue[i])) << i;
        EXPECT_LT(std::abs(picture.red[i]), 60);
    }
}

INSTANTIATE_TEST_SUITE_P(InLight, MixingLaws, testing::Values(MixingLaw::light, MixingLaw::shadow));

// A shadow's soft border, of one material: lifted by a gain, it comes out even.
TEST(MixingLaw, ShadowUndoesAPenumbra) {
    constexpr double material = 0.35, gain = 3.2;
    Pixels picture, corrected;
    std::vector<std::uint16_t> coverage;
    for (std::size_t i = 0; i < count; ++i) {
        const double m = static_cast<double>(i) / (count - 1), light = material * (1 - m + m / gain);
        coverage.push_back(static_cast<std::uint16_t>(std::lround(65535 * m)));
        picture.red.push_back(static_cast<float>(colour::encodedFromLinear(light)));
        corrected.red.push_back(static_cast<float>(colour::encodedFromLinear(gain * light)));
    }
    picture.green = picture.blue = picture.red;
    corrected.green = corrected.blue = corrected.red;
    mixRowInLight(MixingLaw::shadow, picture.row(), corrected.row(), coverage.data(), 1, count);
    for (const float v : picture.red) EXPECT_NEAR(v, colour::encodedFromLinear(material), 2.0 / 65535);
}

TEST(MixingLaw, NamesAreReadBack) {
    for (const MixingLawInfo& info : mixingLaws()) {
        EXPECT_EQ(mixingLawOf(info.id), info.law);
        EXPECT_EQ(idOf(info.law), info.id);
    }
    EXPECT_FALSE(mixingLawOf("dark"));
}

}  // namespace
}  // namespace dimhem::kernel
