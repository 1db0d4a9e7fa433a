#include "core/edge/guided_filter.h"

#include <gtest/gtest.h>

#include <random>

#include "tests/support/mirrored.h"

namespace dimhem::edge {

namespace {

constexpr base::Size size{26, 19};

image::Plane<float> randomPlane(std::uint32_t seed, base::Size of = size) {
    std::mt19937 random(seed);
    image::Plane<float> plane(of);
    for (int y = 0; y < of.height; ++y) {
        for (float& v : plane.row(y)) v = static_cast<float>(random() / 4294967296.0);
    }
    return plane;
}

struct Window {
    int x0, y0, x1, y1;
    double count() const { return (x1 - x0) * (y1 - y0); }
};
Window windowAt(int x, int y, int radius) {
    return {std::max(0, x - radius), std::max(0, y - radius), std::min(size.width, x + radius + 1),
            std::min(size.height, y + radius + 1)};
}

template <class F>
double meanOver(const Window& w, F f) {
    double sum = 0;
    for (int y = w.y0; y < w.y1; ++y) {
        for (int x = w.x0; x < w.x1; ++x) sum += f(static_cast<std::size_t>(x), y);
    }
    return sum / w.count();
}

// He, Sun, Tang, "Guided Image Filtering", PAMI 2013: equations 5 and 6 in each window, then equation 8, written out
// pixel by pixel.
double slowGrey(const image::Plane<float>& guide, const image::Plane<float>& plane, int px, int py, int radius,
                double eps) {
    const Window about = windowAt(px, py, radius);
    return meanOver(about, [&](std::size_t kx, int ky) {
        const Window w = windowAt(static_cast<int>(kx), ky, radius);
        const double meanI = meanOver(w, [&](std::size_t x, int y) { return double{guide.row(y)[x]}; });
        const double meanP = meanOver(w, [&](std::size_t x, int y) { return double{plane.row(y)[x]}; });
        const double cov = meanOver(w, [&](std::size_t x, int y) {
            return (double{guide.row(y)[x]} - meanI) * (double{plane.row(y)[x]} - meanP);
        });
        const double var = meanOver(w, [&](std::size_t x, int y) {
            return (double{guide.row(y)[x]} - meanI) * (double{guide.row(y)[x]} - meanI);
        });
        const double a = cov / (var + eps);
        return a * double{guide.row(py)[static_cast<std::size_t>(px)]} + meanP - a * meanI;
    });
}

}  // namespace

TEST(GuidedFilter, OfOneChannelFollowsItsEquations) {
    const image::Plane<float> guide = randomPlane(1), plane = randomPlane(2);
    for (const double eps : {1e-4, 1e-2}) {
        const image::Plane<float> out = guided(guide, plane, 2, eps);
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x)
                ASSERT_NEAR(out.row(y)[static_cast<std::size_t>(x)], slowGrey(guide, plane, x, y, 2, eps), 2e-4);
        }
    }
}

TEST(GuidedFilter, WithThreeEqualChannelsIsTheGreyOneAtThreeTimesTheVariance) {
    // A guide (g, g, g) has the one direction (1, 1, 1) of variance 3 var(g): the ridge of its regression is eps / 3.
    const image::Plane<float> grey = randomPlane(4), plane = randomPlane(5);
    const auto copy = [&] { return image::cropped(grey, base::rectOf(size)); };
    const image::Plane<float> three = guided(Guide{copy(), copy(), copy()}, plane, 3, 3e-3),
                              one = guided(grey, plane, 3, 1e-3);
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x)
            ASSERT_NEAR(three.row(y)[x], one.row(y)[x], 1e-3);
    }
}

TEST(GuidedFilter, APlaneThatIsALineOfTheGuideStaysAsItIs) {
    const Guide guide{randomPlane(6), randomPlane(7), randomPlane(8)};
    image::Plane<float> plane(size);
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x)
            plane.row(y)[x] = 0.2f + 0.4f * guide.l.row(y)[x] - 0.3f * guide.a.row(y)[x] + 0.1f * guide.b.row(y)[x];
    }
    const image::Plane<float> out = guided(guide, plane, 3, 1e-7);
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x)
            ASSERT_NEAR(out.row(y)[x], plane.row(y)[x], 1e-3);
    }
}

TEST(GuidedFilter, LinesOverTheGuideItselfAreTheFilter) {
    Guide guide{randomPlane(9), randomPlane(10), randomPlane(11)};
    const image::Plane<float> plane = randomPlane(12), out = guided(guide, plane, 2, 1e-3);
    const Guiding guiding(std::move(guide), 2, 1e-3);
    const image::Plane<float> over = guiding.linesFor(plane).over(guiding.guide(), {0.5, 0.5}, 1);
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x)
            ASSERT_NEAR(over.row(y)[x], std::clamp(out.row(y)[x], 0.0f, 1.0f), 2e-3);
    }
}

TEST(GuidedFilter, LinesDrawACoarsePlaneAlongAFineEdge) {
    // The fine guide steps at x = 33, the coarse one, half as large, has it blurred over a pixel.
    const base::Size coarseSize{32, 20}, fineSize{60, 36};
    const auto filled = [](base::Size of, auto f) {
        image::Plane<float> plane(of);
        for (int y = 0; y < of.height; ++y) {
            for (int x = 0; x < of.width; ++x) plane.row(y)[static_cast<std::size_t>(x)] = f(x);
        }
        return plane;
    };
    const auto none = [](int) { return 0.0f; };
    const auto coarseTone = [](int x) { return x < 16 ? 0.2f : x == 16 ? 0.5f : 0.8f; };
    const Guiding guiding({filled(coarseSize, coarseTone), filled(coarseSize, none), filled(coarseSize, none)}, 2,
                          1e-5);
    const Guide fine{filled(fineSize, [](int x) { return x < 33 ? 0.2f : 0.8f; }), filled(fineSize, none),
                     filled(fineSize, none)};
    const image::Plane<float> coarse = filled(coarseSize, [](int x) { return x < 16 ? 0.0f : x == 16 ? 0.5f : 1.0f; });
    const image::Plane<float> out = guiding.linesFor(coarse).over(fine, {0.25, 0.25}, 0.5);
    EXPECT_NEAR(out.row(18)[32], 0, 0.02);
    EXPECT_NEAR(out.row(18)[33], 1, 0.02);
}

TEST(GuidedFilter, OfMirroredPlanesIsMirrored) {
    const Guide guide{randomPlane(1), randomPlane(2), randomPlane(3)};
    const image::Plane<float> plane = randomPlane(4);
    const image::Plane<float> byColour = guided(guide, plane, 3, 1e-3), byLight = guided(guide.l, plane, 3, 1e-3);
    for (const tests::Mirror mirror : {tests::Mirror::across, tests::Mirror::upsideDown}) {
        const Guide other = tests::mirrored(guide, mirror);
        const image::Plane<float> otherPlane = tests::mirrored(plane, mirror);
        const image::Plane<float> colour = tests::mirrored(guided(other, otherPlane, 3, 1e-3), mirror),
                                  light = tests::mirrored(guided(other.l, otherPlane, 3, 1e-3), mirror);
        for (int y = 0; y < size.height; ++y) {
            for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
                ASSERT_NEAR(colour.row(y)[x], byColour.row(y)[x], 2e-4) << x << " " << y;
                ASSERT_NEAR(light.row(y)[x], byLight.row(y)[x], 2e-5) << x << " " << y;
            }
        }
    }
}

}  // namespace dimhem::edge
