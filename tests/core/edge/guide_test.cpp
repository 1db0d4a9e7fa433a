#include "core/edge/guide.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "tests/support/edge_scene.h"

namespace dimhem::edge {

namespace {

image::Plane<float> noisy(double sigma, auto tone) {
    std::mt19937 random(1);
    std::normal_distribution<double> normal(0, 1);
    image::Plane<float> plane({96, 96});
    for (int y = 0; y < 96; ++y) {
        for (int x = 0; x < 96; ++x)
            plane.row(y)[static_cast<std::size_t>(x)] = static_cast<float>(tone(x, y) + sigma * normal(random));
    }
    return plane;
}

}  // namespace

TEST(Noise, OfAFlatTone) {
    for (const double sigma : {0.002, 0.01, 0.03})
        EXPECT_NEAR(noiseOf(noisy(sigma, [](int, int) { return 0.5; })), sigma, 0.08 * sigma);
}

TEST(Noise, IsNotMistakenForASlopeNorForAnEdge) {
    EXPECT_NEAR(noiseOf(noisy(0.01, [](int x, int y) { return 0.2 + 0.004 * x + 0.002 * y; })), 0.01, 0.001);
    EXPECT_NEAR(noiseOf(noisy(0.01, [](int x, int) { return x < 48 ? 0.2 : 0.8; })), 0.01, 0.001);
}

TEST(Noise, IsNoneWithoutPixelsToTell) {
    EXPECT_EQ(noiseOf(image::Plane<float>({2, 2})), 0);
}

TEST(Guide, DenoisedKeepsTheEdgeAndCalmsTheRest) {
    tests::EdgeScene scene;
    scene.grain = 0.05;
    const Guide guide = scene.guide();
    const double noise = noiseOf(guide.l);
    const Guide calm = denoised(guide, noise);
    EXPECT_LT(noiseOf(calm.l), 0.5 * noise);
    const auto step = [](const Guide& g) {  // of the mean a few pixels to either side of the subject's right edge
        double in = 0, out = 0;
        for (int y = 80; y < 100; ++y) {
            for (std::size_t x = 150; x < 156; ++x) in += double{g.b.row(y)[x]} / 120;
            for (std::size_t x = 172; x < 178; ++x) out += double{g.b.row(y)[x]} / 120;
        }
        return std::abs(in - out);
    };
    EXPECT_GT(step(guide), 0.1);
    EXPECT_NEAR(step(calm), step(guide), 0.05 * step(guide));
}

}  // namespace dimhem::edge
