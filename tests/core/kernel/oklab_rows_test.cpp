#include "core/kernel/oklab_rows.h"

#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <random>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"

namespace dimhem::kernel {

namespace {

using Triple = std::array<double, 3>;

Triple oklabOf(Triple encoded) {
    float r = static_cast<float>(encoded[0]), g = static_cast<float>(encoded[1]), b = static_cast<float>(encoded[2]);
    oklabRow({&r, &g, &b}, 1);
    return {double{r}, double{g}, double{b}};
}

// Ottosson, "A perceptual color space for image processing", 2020: from linear sRGB; quoted from memory.
Triple reference(Triple rgb) {
    const double l = std::cbrt(0.4122214708 * rgb[0] + 0.5363325363 * rgb[1] + 0.0514459929 * rgb[2]);
    const double m = std::cbrt(0.2119034982 * rgb[0] + 0.6806995451 * rgb[1] + 0.1073969566 * rgb[2]);
    const double s = std::cbrt(0.0883024619 * rgb[0] + 0.2817188376 * rgb[1] + 0.6299787005 * rgb[2]);
    return {0.2104542553 * l + 0.7936177850 * m - 0.0040720468 * s,
            1.9779984951 * l - 2.4285922050 * m + 0.4505937099 * s,
            0.0259040371 * l + 0.7827717662 * m - 0.8086757660 * s};
}

}  // namespace

TEST(OklabRows, FollowTheirFormulaWithinAFewMillionths) {
    std::mt19937 random(1);
    for (int i = 0; i < 5000; ++i) {
        const auto value = [&] { return random() / 4294967296.0; };
        const Triple encoded{value(), value(), value()};
        const Triple linear{colour::linearFromEncoded(encoded[0]), colour::linearFromEncoded(encoded[1]),
                            colour::linearFromEncoded(encoded[2])};
        const Triple got = oklabOf(encoded), expected = reference(linear);
        for (std::size_t c = 0; c < 3; ++c) ASSERT_NEAR(got[c], expected[c], 1e-5);
    }
}

// The table of pairs in the same article: XYZ (D65) to OKLab, given there to three decimals; quoted from
// memory. Colours beyond sRGB come as values below 0 or above 1.
TEST(OklabRows, GiveThePublishedPairs) {
    const std::pair<colour::Xyz, Triple> pairs[] = {{{0.950, 1.000, 1.089}, {1.000, 0.000, 0.000}},
                                                    {{1.000, 0.000, 0.000}, {0.450, 1.236, -0.019}},
                                                    {{0.000, 1.000, 0.000}, {0.922, -0.671, 0.263}},
                                                    {{0.000, 0.000, 1.000}, {0.153, -1.415, -0.449}}};
    for (const auto& [xyz, lab] : pairs) {
        const colour::LinearRgb linear = colour::linearFromXyz(xyz);
        const Triple got = oklabOf({colour::encodedFromLinear(linear.r), colour::encodedFromLinear(linear.g),
                                    colour::encodedFromLinear(linear.b)});
        for (std::size_t c = 0; c < 3; ++c) EXPECT_NEAR(got[c], lab[c], 0.0012);
    }
}

TEST(OklabRows, GreysHaveNoColour) {
    for (const double v : {0.0, 0.02, 0.2, 0.5, 0.9, 1.0}) {
        const Triple got = oklabOf({v, v, v});
        EXPECT_NEAR(got[1], 0, 1e-4);
        EXPECT_NEAR(got[2], 0, 1e-4);
    }
}

}  // namespace dimhem::kernel
