// Seams, oppositions and faults, on planes whose answer is known.
#include <gtest/gtest.h>

#include <cmath>

#include "core/check/fault.h"
#include "core/check/opposed.h"
#include "core/check/seam.h"

namespace dimhem::check {

namespace {

constexpr base::Size size{160, 120};

template <class F>
image::Plane<float> plane(F f) {
    return image::planeOf(size, f);
}

Effect constant(float l, float a, float b) {
    return {image::filled(size, l), image::filled(size, a), image::filled(size, b)};
}

}  // namespace

TEST(Fault, IsToldFromTheSamplesThatAreWritten) {
    // As an 8-bit file holds it: 254.5 rounds to 255, 3.5 to 4.
    EXPECT_EQ(faultOf({0.5, 254.6 / 255, 0.2}), Fault::clipped);
    EXPECT_EQ(faultOf({0.5, 254.4 / 255, 0.2}), Fault::none);
    EXPECT_EQ(faultOf({3.4 / 255, 0, 0}), Fault::blocked);
    EXPECT_EQ(faultOf({3.6 / 255, 0, 0}), Fault::none);
    EXPECT_EQ(faultOf({0.5, 0.5, -0.01}), Fault::outside);
    EXPECT_EQ(faultOf({1.2, 0.5, -0.01}), Fault::clipped) << "what is worse is said";
}

TEST(Opposition, OfParallelEffectsIsNoneAndOfOppositeOnesIsAllOfTheWeaker) {
    EXPECT_EQ(opposition(constant(4, 1, 0), constant(2, 0.5f, 0)).pixels, 0);
    const Opposition all = opposition(constant(6, 0, 0), constant(-2, 0, 0));
    EXPECT_NEAR(all.cancelledPct, 100, 1e-4);
    EXPECT_NEAR(all.cancelled, 2, 1e-6);
    EXPECT_EQ(all.pixels, size.width * size.height);
    EXPECT_EQ(opposition(constant(6, 0, 0), constant(0, 5, 0)).pixels, 0) << "at a right angle nothing is lost";
    // At 120 degrees: half of the weaker lies against the other.
    const Opposition some = opposition(constant(0, 4, 0), constant(0, -1.5f, 1.5f * std::sqrt(3.0f)));
    EXPECT_NEAR(some.cancelledPct, 50, 1e-3);
    EXPECT_EQ(opposition(constant(0.2f, 0, 0), constant(-5, 0, 0)).pixels, 0) << "too weak to be one";
}

TEST(Opposition, CountsWhereBothActAndIsTheSameEitherWayRound) {
    const auto left = [](float l) {
        return Effect{plane([=](int x, int) { return x < 80 ? l : 0; }), image::filled(size, 0.0f),
                      image::filled(size, 0.0f)};
    };
    const auto right = Effect{plane([](int x, int) { return x >= 40 ? -3.0f : 0; }), image::filled(size, 0.0f),
                              image::filled(size, 0.0f)};
    const Opposition one = opposition(left(5), right), other = opposition(right, left(5));
    EXPECT_EQ(one.pixels, 40 * size.height);
    EXPECT_NEAR(one.cancelledPct, 100, 1e-4);
    EXPECT_NEAR(one.cancelledPct, other.cancelledPct, 1e-6);
    EXPECT_NEAR(one.cancelled, other.cancelled, 1e-6);
}

TEST(Seam, IsAStepOfTheEffectWhereThePhotoHasNone) {
    const auto flat = image::filled(size, 50.0f);
    const auto stepped = plane([](int x, int) { return x < 80 ? 50.0f : 56.0f; });
    const Seam hard = seamOf(flat, stepped);
    EXPECT_EQ(hard.pixels, 2 * size.height) << "on either side of the step";
    EXPECT_NEAR(hard.step, 6, 1e-4);
    EXPECT_EQ(hard.edgePixels, hard.pixels);
    // The same step along an edge of the photo, twice as strong as itself, is hidden.
    const auto edge = plane([](int x, int) { return x < 80 ? 30.0f : 60.0f; });
    const auto edgeLifted = plane([](int x, int) { return x < 80 ? 30.0f : 66.0f; });
    const Seam hidden = seamOf(edge, edgeLifted);
    EXPECT_EQ(hidden.pixels, 0);
    EXPECT_GT(hidden.edgePixels, 0);
    // A soft passage over 40 pixels makes no step that can be seen.
    const auto soft =
        plane([](int x, int) { return 50 + 12 * std::clamp((static_cast<float>(x) - 60) / 40, 0.0f, 1.0f); });
    EXPECT_EQ(seamOf(flat, soft).edgePixels, 0);
    // In texture as strong as the step nobody sees it.
    const auto texture = plane([](int x, int y) { return 50 + ((x * 7 + y * 13) % 5 < 2 ? 6.0f : -6.0f); });
    const auto textureStepped =
        plane([&](int x, int y) { return texture.row(y)[static_cast<std::size_t>(x)] + (x < 80 ? 0.0f : 6.0f); });
    EXPECT_EQ(seamOf(texture, textureStepped).pixels, 0);
    EXPECT_EQ(seamOf(flat, flat).edgePixels, 0);
}

// Between half of what the photo does of itself and all of it: it takes a step of twice its own range to be seen.
TEST(Seam, TheLineIsAtTwiceThePhotosOwnRange) {
    const auto texture = plane([](int x, int) { return 50 + (x % 4 < 2 ? 2.0f : -2.0f); });  // steps of 4
    for (const auto& [step, seen] :
         {std::pair{5.0f, false}, {6.0f, false}, {7.5f, false}, {8.5f, true}, {12.0f, true}}) {
        const auto lifted = plane([&](int x, int y) {
            return texture.row(y)[static_cast<std::size_t>(x)] + (y < size.height / 2 ? 0.0f : step);
        });
        EXPECT_EQ(seamOf(texture, lifted).pixels > 0, seen) << step;
        EXPECT_GT(seamOf(texture, lifted).edgePixels, 0) << step;
    }
}

}  // namespace dimhem::check
