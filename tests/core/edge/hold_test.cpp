#include "core/edge/hold.h"

#include <gtest/gtest.h>

#include "core/edge/colour_mixture.h"
#include "tests/support/edge_scene.h"
#include "tests/support/mirrored.h"

namespace dimhem::edge {

namespace {

struct Dab {
    Guide guide;
    image::Plane<std::uint8_t> core;
    std::vector<Colour> model;
    double noise;
};

// A dab on the subject, its window reaching well past the subject's right edge.
Dab dabOn(const tests::EdgeScene& scene, base::Point centre = {140, 90}) {
    const Guide guide = scene.guide();
    const double noise = noiseOf(guide.l);
    Dab dab{denoised(guide, noise), {}, {}, noise};
    dab.core = coreOf(dab.guide, centre, 8, noise, 20);
    addColours(dab.guide, dab.core, 200, dab.model);
    return dab;
}

}  // namespace

TEST(Hold, BelongsToTheThingUnderTheCentreAndNotToWhatIsPastItsEdge) {
    const tests::EdgeScene scene;
    const Dab dab = dabOn(scene);
    const image::Plane<float> held = edge::held(dab.guide, dab.core, dab.model, {0.75, dab.noise});
    double in = 0, out = 0, ins = 0, outs = 0;
    scene.forEach([&](int x, int y) {
        const double far = scene.outside(x + 0.5, y + 0.5);
        const double v = double{held.row(y)[static_cast<std::size_t>(x)]};
        if (far < -4) in += v, ++ins;
        if (far > 4) out += v, ++outs;
    });
    EXPECT_GT(in / ins, 0.97);
    EXPECT_LT(out / outs, 0.01);
}

TEST(Hold, DoesNotJumpToAnotherThingOfTheSameColour) {
    tests::EdgeScene scene;
    const auto one = scene.outside;
    scene.outside = [one](double x, double y) { return std::min(one(x, y), std::hypot(x - 215, y - 90) - 14); };
    const Dab dab = dabOn(scene);
    EXPECT_GT(membership(dab.guide, dab.model, 0.75).row(90)[215], 0.5f) << "by colour alone it would belong";
    const image::Plane<float> held = edge::held(dab.guide, dab.core, dab.model, {0.75, dab.noise});
    EXPECT_LT(held.row(90)[215], 0.01f) << "but it does not be connected with the centre";
}

TEST(Hold, TakesTheColoursUnderTheCentreEvenly) {
    const tests::EdgeScene scene;
    const Guide guide = scene.guide();
    std::vector<Colour> few, all;
    addColours(guide, coreOf(guide, {140, 90}, 8, 0, 20), 50, few);
    addColours(guide, coreOf(guide, {140, 90}, 8, 0, 20), 10'000, all);
    EXPECT_LE(few.size(), 60u);
    EXPECT_NEAR(static_cast<double>(all.size()), 3.14159 * 64, 12);
    addColours(guide, coreOf(guide, {-50, -50}, 8, 0, 20), 50, few);
    EXPECT_LE(few.size(), 60u) << "beside the picture there is nothing to take";
}

// The usual way to follow an edge: the centre so near it that the core lies across. The side the centre is on counts.
TEST(Hold, CloseToAnEdgeItKeepsToTheSideItsCentreIsOn) {
    const tests::EdgeScene scene;
    double edgeX = 140;  // along the row of the other dabs
    while (scene.outside(edgeX, 90) < 0) edgeX += 0.5;
    for (const double off : {-6.0, -4.0, -2.5}) {
        const Dab dab = dabOn(scene, {edgeX + off, 90});
        const image::Plane<float> held = edge::held(dab.guide, dab.core, dab.model, {0.75, dab.noise});
        double in = 0, out = 0, ins = 0, outs = 0;
        scene.forEach([&](int x, int y) {
            if (std::hypot(x - edgeX, y - 90) > 50) return;
            const double far = scene.outside(x + 0.5, y + 0.5), v = double{held.row(y)[static_cast<std::size_t>(x)]};
            if (far < -4) in += v, ++ins;
            if (far > 4) out += v, ++outs;
        });
        EXPECT_GT(in / ins, 0.9) << off;
        EXPECT_LT(out / outs, 0.02) << off;
    }
    // From beyond the edge it holds to what is there.
    const Dab beyond = dabOn(scene, {edgeX + 4, 90});
    const image::Plane<float> held = edge::held(beyond.guide, beyond.core, beyond.model, {0.75, beyond.noise});
    EXPECT_LT(held.row(90)[static_cast<std::size_t>(edgeX - 10)], 0.05f);
}

TEST(Hold, ALooserToleranceNeverHoldsToLess) {
    tests::EdgeScene scene;
    scene.grain = 0.04;
    const Dab dab = dabOn(scene);
    const auto sum = [&](double q) {
        double all = 0;
        const image::Plane<float> p = membership(dab.guide, dab.model, q);
        scene.forEach([&](int x, int y) { all += double{p.row(y)[static_cast<std::size_t>(x)]}; });
        return all;
    };
    EXPECT_LE(sum(0.25), sum(0.5));
    EXPECT_LE(sum(0.5), sum(0.9));
    EXPECT_LT(sum(0.25), 0.9 * sum(0.9));
}

TEST(ColourMixture, FindsTheClustersItWasMadeOf) {
    std::vector<ColourMixture::Sample> samples;
    for (int i = 0; i < 300; ++i) {
        const auto wobble = [i](int c) { return 0.01f * static_cast<float>(tests::EdgeScene::noiseAt(i, 1, c)); };
        samples.push_back({{0.2f + wobble(0), 0.1f + wobble(1), wobble(2)}, 1});
        samples.push_back({{0.8f + wobble(2), -0.1f + wobble(0), 0.1f + wobble(1)}, 2});
    }
    const ColourMixture mixture(samples, 0.005);
    const auto at = [&](Colour c) { return mixture.density(c); };
    EXPECT_GT(at({0.2f, 0.1f, 0}), 1e8 * at({0.5f, 0, 0.05f})) << "between the two there is nothing";
    EXPECT_NEAR(std::log(at({0.8f, -0.1f, 0.1f}) / at({0.2f, 0.1f, 0})), std::log(2.0), 0.6) << "twice the weight";
    EXPECT_EQ(ColourMixture({}, 0.01).density({0.3f, 0, 0}), 1) << "of nothing, any colour is as likely";
}

TEST(ColourMixture, IsADensity) {
    const std::vector<ColourMixture::Sample> samples = {
        {{0.5f, 0, 0}, 1}, {{0.52f, 0.01f, 0}, 1}, {{0.47f, 0, 0.01f}, 1}};
    const ColourMixture mixture(samples, 0.01);
    double sum = 0;
    constexpr double step = 0.01;
    for (double l = 0.3; l < 0.7; l += step) {
        for (double a = -0.15; a < 0.15; a += step) {
            for (double b = -0.15; b < 0.15; b += step)
                sum += mixture.density({static_cast<float>(l), static_cast<float>(a), static_cast<float>(b)}) * step *
                       step * step;
        }
    }
    EXPECT_NEAR(sum, 1, 0.02);
}

TEST(Hold, OfAMirroredSceneIsMirrored) {
    const tests::EdgeScene scene;
    const Dab dab = dabOn(scene);
    const image::Plane<float> there = edge::held(dab.guide, dab.core, dab.model, {0.75, dab.noise});
    for (const tests::Mirror mirror : {tests::Mirror::across, tests::Mirror::upsideDown}) {
        const image::Plane<float> back =
            tests::mirrored(edge::held(tests::mirrored(dab.guide, mirror), tests::mirrored(dab.core, mirror), dab.model,
                                       {0.75, dab.noise}),
                            mirror);
        scene.forEach([&](int x, int y) {
            const auto i = static_cast<std::size_t>(x);
            ASSERT_NEAR(back.row(y)[i], there.row(y)[i], 1e-4) << x << " " << y;
        });
    }
}

// The core too: whichever side of the centre the edge is on.
TEST(Hold, TheCoreBesideAMirroredEdgeIsMirrored) {
    const tests::EdgeScene scene;
    const Guide guide = denoised(scene.guide(), 0.01);
    const base::Size size = guide.size();
    const base::Point centre{155, 90};
    const image::Plane<std::uint8_t> there = coreOf(guide, centre, 12, 0.01, 20);
    const image::Plane<std::uint8_t> back = tests::mirrored(
        coreOf(tests::mirrored(guide, tests::Mirror::across), {size.width - centre.x, centre.y}, 12, 0.01, 20),
        tests::Mirror::across);
    int in = 0, differing = 0;
    scene.forEach([&](int x, int y) {
        const auto i = static_cast<std::size_t>(x);
        in += there.row(y)[i];
        differing += back.row(y)[i] != there.row(y)[i];
    });
    EXPECT_GT(in, 50);
    EXPECT_EQ(differing, 0);
}

}  // namespace dimhem::edge
