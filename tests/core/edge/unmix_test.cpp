#include "core/edge/unmix.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "tests/support/edge_scene.h"

namespace dimhem::edge {

namespace {

// Linear light, without noise.
image::LinearPlanes mixed(const tests::EdgeScene& scene) {
    const auto channel = [&](double f, double b) {
        return scene.plane([&, f, b](double x, double y) {
            const double a = scene.matteAt(x, y);
            return a * f + (1 - a) * b;
        });
    };
    image::LinearPlanes out;
    out.red = channel(scene.subject.r, scene.backdrop.r);
    out.green = channel(scene.subject.g, scene.backdrop.g);
    out.blue = channel(scene.subject.b, scene.backdrop.b);
    return out;
}

}  // namespace

TEST(Unmix, FindsTheSubjectsOwnColourOnSharpSoftAndThinThings) {
    for (const double softPx : {1.5, 6.0, 16.0}) {
        for (const bool thin : {false, true}) {
            tests::EdgeScene scene;
            scene.softPx = softPx;
            if (thin) {
                if (softPx > 6) continue;
                scene.outside = [](double x, double) { return std::abs(x - 120) - 2; };
            }
            const Unmixed found = unmix(mixed(scene), scene.matte());
            double worst = 0;
            scene.forEach([&](int x, int y) {
                const double a = scene.matteAt(x + 0.5, y + 0.5);
                if (a < 0.1 || a > 0.999) return;
                const auto i = static_cast<std::size_t>(x);
                // What counts is how far off the corrected pixel will be: the error weighed by the coverage.
                worst = std::max({worst, a * std::abs(double{found.own.red.row(y)[i]} - scene.subject.r),
                                  a * std::abs(double{found.own.blue.row(y)[i]} - scene.subject.b)});
                EXPECT_GT(found.trust.row(y)[i], 0.9f);
            });
            EXPECT_LT(worst, thin ? 0.06 : 0.02) << softPx << " thin " << thin;
        }
    }
}

TEST(Unmix, LeavesFullAndUncoveredPixelsAlone) {
    const tests::EdgeScene scene;
    const image::LinearPlanes picture = mixed(scene);
    const Unmixed found = unmix(picture, scene.matte());
    for (const auto& [x, y] : {std::pair{110, 90}, {5, 5}}) {
        EXPECT_EQ(found.own.green.row(y)[static_cast<std::size_t>(x)],
                  picture.green.row(y)[static_cast<std::size_t>(x)]);
    }
}

TEST(Unmix, DoesNotTrustAMaskThatIsSoftByItself) {
    // A wide gradient over a sharp edge of the photo: its half-covered pixels are no mixtures.
    tests::EdgeScene scene;
    scene.outside = [](double x, double) { return x - 120; };
    const image::Plane<float> gradient =
        scene.plane([](double, double y) { return std::clamp((y - 30) / 120, 0.0, 1.0); });
    const Unmixed found = unmix(mixed(scene), gradient);
    double sum = 0, count = 0;
    scene.forEach([&](int x, int y) {
        if (y < 45 || y > 135) return;
        sum += double{found.trust.row(y)[static_cast<std::size_t>(x)]};
        ++count;
    });
    EXPECT_LT(sum / count, 0.15);
}

TEST(Unmix, DoesNotTrustAMixtureOfLikeColours) {
    tests::EdgeScene scene;
    scene.backdrop = scene.subject;
    const Unmixed found = unmix(mixed(scene), scene.matte());
    scene.forEach([&](int x, int y) { ASSERT_EQ(found.trust.row(y)[static_cast<std::size_t>(x)], 0); });
}

}  // namespace dimhem::edge
