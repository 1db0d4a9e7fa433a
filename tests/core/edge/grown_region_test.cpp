#include "core/edge/grown_region.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <random>
#include <vector>

#include "core/edge/colour_bins.h"
#include "core/edge/local_evidence.h"
#include "core/edge/random_walk.h"

namespace dimhem::edge {

namespace {

constexpr base::Size size{240, 180};

using ColourAt = std::function<Colour(int x, int y)>;

Guide guideOf(const ColourAt& at) {
    Guide guide{image::Plane<float>(size), image::Plane<float>(size), image::Plane<float>(size)};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const Colour c = at(x, y);
            guide.l.row(y)[x] = c[0];
            guide.a.row(y)[x] = c[1];
            guide.b.row(y)[x] = c[2];
        }
    }
    return guide;
}

bool isOnDisc(int x, int y) {
    return std::hypot(x - 120, y - 90) < 55;
}

// A disc on a ground that runs from dark to light and has the disc's own lightness in its middle.
Guide discOnSlope(double noise, std::uint32_t seed) {
    std::mt19937 random(seed);
    std::normal_distribution<float> grain(0, 1);
    return guideOf([&](int x, int y) {
        const float ground = 0.25f + 0.5f * static_cast<float>(x) / static_cast<float>(size.width);
        const float n = static_cast<float>(noise) * grain(random);
        return isOnDisc(x, y) ? Colour{0.5f + n, 0.02f, 0} : Colour{ground + n, 0, 0};
    });
}

struct Drag {
    int x0, y0, x1, y1;
    Sure what = Sure::inside;
};

image::Plane<Sure> sureOf(const std::vector<Drag>& drags) {
    image::Plane<Sure> sure(size);
    for (int y = 0; y < size.height; ++y) std::fill_n(sure.row(y).data(), size.width, Sure::no);
    for (const Drag& drag : drags) {
        for (int i = 0; i <= 100; ++i) {
            const int x = drag.x0 + (drag.x1 - drag.x0) * i / 100, y = drag.y0 + (drag.y1 - drag.y0) * i / 100;
            for (int dy = -1; dy <= 1; ++dy) {
                for (int dx = -1; dx <= 1; ++dx) sure.row(y + dy)[x + dx] = drag.what;
            }
        }
    }
    return sure;
}

double overlapWithDisc(const Sides& sides) {
    double both = 0, either = 0;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const bool in = sides.row(y)[x] == Side::inside;
            both += in && isOnDisc(x, y) ? 1 : 0;
            either += in || isOnDisc(x, y) ? 1 : 0;
        }
    }
    return both / either;
}

}  // namespace

TEST(GrownRegion, DoesNotRunOffIntoGroundOfTheSameLightness) {
    for (const double noise : {0.003, 0.02, 0.04}) {
        for (const std::uint32_t seed : {1u, 2u, 3u}) {
            const Guide guide = discOnSlope(noise, seed);
            const double measured = noiseOf(guide.l);
            const Sides sides =
                grownRegion(denoised(guide, measured), sureOf({{100, 70, 140, 110}}), {0, measured, false}).sides;
            EXPECT_GT(overlapWithDisc(sides), 0.93) << noise << ' ' << seed;
        }
    }
}

TEST(GrownRegion, FillsAThingOfManyColours) {
    const Guide guide = guideOf([](int x, int y) {
        const Colour patches[] = {{0.3f, 0.1f, 0}, {0.7f, -0.1f, 0.05f}, {0.5f, 0, -0.15f}, {0.2f, 0, 0}};
        const std::size_t patch = (x > 110 ? 1u : 0u) + (y > 85 ? 2u : 0u);
        return isOnDisc(x, y) ? patches[patch] : Colour{0.85f, 0.01f, 0.02f};
    });
    const Sides sides = grownRegion(guide, sureOf({{90, 70, 150, 115}}), {0, 0.001, false}).sides;
    EXPECT_GT(overlapWithDisc(sides), 0.97);
}

TEST(GrownRegion, MoreReachNeverLeavesOutWhatLessTookIn) {
    const Guide guide = discOnSlope(0.02, 5);
    const image::Plane<Sure> sure = sureOf({{100, 70, 140, 110}});
    image::Plane<std::uint8_t> taken = image::filled(size, std::uint8_t{0});  // by less reach
    for (const double bias : {-4.0, -2.0, -0.5, 0.0, 0.5, 2.0, 4.0}) {
        const Sides sides = grownRegion(guide, sure, {bias, noiseOf(guide.l), false}).sides;
        int lost = 0;
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                const bool in = sides.row(y)[x] == Side::inside;
                lost += taken.row(y)[x] && !in ? 1 : 0;
                taken.row(y)[x] = in ? 1 : 0;
            }
        }
        EXPECT_EQ(lost, 0) << bias;
    }
}

TEST(GrownRegion, ADragBesideTheThingTakesNothingOfIt) {
    const Guide guide = discOnSlope(0.02, 9);
    const double noise = noiseOf(guide.l);
    const Guide smooth = denoised(guide, noise);
    const Drag over{100, 70, 140, 110};
    const double without = overlapWithDisc(grownRegion(smooth, sureOf({over}), {0, noise, false}).sides);
    for (const Drag& beside : {Drag{50, 80, 58, 110, Sure::outside}, Drag{110, 26, 140, 28, Sure::outside}}) {
        const Sides sides = grownRegion(smooth, sureOf({over, beside}), {0, noise, false}).sides;
        EXPECT_GT(overlapWithDisc(sides), without - 0.01) << beside.x0;
    }
}

TEST(GrownRegion, ADragWithinTakesWhatLiesAboutIt) {
    const Guide guide = guideOf([](int x, int y) {
        return isOnDisc(x, y) ? Colour{0.3f, 0.1f, 0} : Colour{0.8f, 0, 0};
    });
    const image::Plane<Sure> sure = sureOf({{80, 90, 105, 90}, {150, 80, 150, 100, Sure::outside}});
    const Sides sides = grownRegion(guide, sure, {0, 0.001, false}).sides;
    EXPECT_EQ(sides.row(90)[90], Side::inside);
    for (const int x : {140, 150, 160}) EXPECT_EQ(sides.row(90)[x], Side::outside) << x;
}

TEST(GrownRegion, TakesPartsApartWhereItIsTold) {
    // A disc cut in two by a bar of the ground's colour.
    const auto isBar = [](int x) { return std::abs(x - 130) < 4; };
    const Guide guide = guideOf([&](int x, int y) {
        return isOnDisc(x, y) && !isBar(x) ? Colour{0.3f, 0.1f, 0} : Colour{0.8f, 0, 0.02f};
    });
    const image::Plane<Sure> sure = sureOf({{80, 80, 110, 100}});
    const Sides joined = grownRegion(guide, sure, {0, 0.001, false}).sides,
                apart = grownRegion(guide, sure, {0, 0.001, true}).sides;
    EXPECT_EQ(joined.row(90)[150], Side::outside);
    EXPECT_EQ(apart.row(90)[150], Side::inside);
    EXPECT_EQ(apart.row(90)[130], Side::outside);
    EXPECT_EQ(apart.row(20)[20], Side::outside);
}

// Two like patches side by side on one ground, a drag over one of them only: whether the other belongs is for the hand
// to say, and that is where it is asked. Where the ways agree nothing is asked.
TEST(GrownRegion, AsksWhereItsWaysDiffer) {
    std::mt19937 random(11);
    std::normal_distribution<float> grain(0, 0.03f);
    const auto patches = [&](int x, int y) {
        const float n = grain(random);
        if (std::hypot(x - 85, y - 90) < 40) return Colour{0.45f + n, 0.05f, 0.02f};
        if (std::hypot(x - 155, y - 90) < 40) return Colour{0.52f + n, 0.05f, 0.06f};
        return Colour{0.6f + 0.1f * std::sin(static_cast<float>(x + 2 * y) / 9) + n, 0, 0.03f};
    };
    const Guide guide = guideOf(patches);
    image::Plane<Sure> sure = image::filled(size, Sure::no);
    for (int x = 70; x < 100; ++x) sure.row(90)[x] = Sure::inside;
    const GrownRegion grown = grownRegion(guide, sure, {0, 0.03, false});
    for (const UnsurePlace& place : grown.unsure) {
        EXPECT_GE(place.radiusPx, 5);
        EXPECT_GE(place.pixels, place.radiusPx * place.radiusPx);
        EXPECT_TRUE(isWithin(size, place.x, place.y));
    }
    EXPECT_LE(grown.unsure.size(), 3u);
    ASSERT_FALSE(grown.unsure.empty());
    EXPECT_LT(std::hypot(grown.unsure[0].x - 155, grown.unsure[0].y - 90), 25);
    const Guide plain = guideOf([](int x, int y) {
        return isOnDisc(x, y) ? Colour{0.4f, 0.1f, 0} : Colour{0.7f, 0, 0};
    });
    image::Plane<Sure> onDisc = image::filled(size, Sure::no);
    for (int x = 100; x < 140; ++x) onDisc.row(90)[x] = Sure::inside;
    EXPECT_TRUE(grownRegion(plain, onDisc, {0, 0, false}).unsure.empty());
}

// A like patch that stands apart would not come to the region either way: nothing is asked there.
TEST(GrownRegion, AsksOnlyAtItsEdge) {
    for (std::uint32_t seed = 1; seed <= 8; ++seed) {
        std::mt19937 random(seed);
        std::normal_distribution<float> grain(0, 0.03f);
        const Guide guide = guideOf([&](int x, int y) {
            const float n = grain(random);
            if (std::hypot(x - 60, y - 90) < 36) return Colour{0.45f + n, 0.05f, 0.02f};
            if (std::hypot(x - 185, y - 90) < 36) return Colour{0.5f + n, 0.05f, 0.05f};
            return Colour{0.6f + 0.1f * std::sin(static_cast<float>(x + 2 * y) / 9) + n, 0, 0.03f};
        });
        image::Plane<Sure> sure = image::filled(size, Sure::no);
        for (int x = 45; x < 75; ++x) sure.row(90)[x] = Sure::inside;
        const GrownRegion grown = grownRegion(guide, sure, {0, 0.03, false});
        for (const UnsurePlace& place : grown.unsure) {
            // Within its own reach of a pixel of the other side.
            bool isNear = false;
            const int r = static_cast<int>(place.radiusPx) + 3;
            for (int y = place.y - r; y <= place.y + r; ++y) {
                for (int x = place.x - r; x <= place.x + r; ++x) {
                    if (!isWithin(size, x, y)) continue;
                    isNear = isNear || grown.sides.row(y)[x] != grown.sides.row(place.y)[place.x];
                }
            }
            EXPECT_TRUE(isNear) << seed << ": " << place.x << " " << place.y;
        }
    }
}

TEST(GrownRegion, OfPicturesOfAFewPixelsIsFine) {
    for (const base::Size small : {base::Size{1, 1}, {2, 1}, {1, 5}, {3, 2}, {47, 49}, {49, 1}, {97, 48}}) {
        std::mt19937 random(static_cast<std::uint32_t>(small.width));
        const auto plane = [&] {
            return image::planeOf(small, [&](int, int) { return static_cast<float>(random() % 100) / 100; });
        };
        const Guide guide{plane(), plane(), plane()};
        for (const Sure other : {Sure::no, Sure::outside}) {
            image::Plane<Sure> sure(small);
            for (int y = 0; y < small.height; ++y) std::fill_n(sure.row(y).data(), small.width, Sure::no);
            sure.row(small.height - 1)[small.width - 1] = other;
            sure.row(0)[0] = Sure::inside;
            const GrownRegion grown = grownRegion(guide, sure, {0, 0.01, true});
            EXPECT_EQ(grown.sides.row(0)[0], Side::inside) << small.width;
        }
    }
}

TEST(RandomWalk, FallsEvenlyWhereNothingHinders) {
    // Between two plates the potential is a ramp (Kirchhoff's laws).
    const Guide guide = guideOf([](int, int) { return Colour{0.5f, 0, 0}; });
    Sides sources(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x)
            sources.row(y)[x] = x < 2 ? Side::inside : x >= size.width - 2 ? Side::outside : Side::unknown;
    }
    const Walk walk = walked(guide, sources, 0.001);
    for (int x = 10; x < size.width - 10; x += 20)
        EXPECT_NEAR(walk.potential.row(90)[x], 1 - (x - 1) / (size.width - 2.0), 0.01) << x;
}

TEST(RandomWalk, OneGapInAnEdgeLetsLittleThrough) {
    const Guide guide = guideOf([](int x, int y) {
        const bool gap = std::abs(y - 90) < 3;
        return x < 120 || (gap && x < 124) ? Colour{0.4f, 0, 0} : Colour{0.6f, 0, 0};
    });
    Sides sources(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x)
            sources.row(y)[x] = x < 2 ? Side::inside : x >= size.width - 2 ? Side::outside : Side::unknown;
    }
    const Walk walk = walked(guide, sources, 0.001);
    EXPECT_GT(walk.potential.row(40)[110], 0.9);
    EXPECT_LT(walk.potential.row(40)[130], 0.1);
}

TEST(RandomWalk, GapsAreToldFromEdges) {
    const Guide guide = discOnSlope(0.003, 2);
    const auto discOf = [](double radius) {
        Sides sides(size);
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x)
                sides.row(y)[x] = std::hypot(x - 120, y - 90) < radius ? Side::inside : Side::outside;
        }
        return sides;
    };
    const double right = gapsAlong(guide, discOf(55), 0.003), wide = gapsAlong(guide, discOf(70), 0.003),
                 narrow = gapsAlong(guide, discOf(40), 0.003);
    EXPECT_LT(right + 0.2, wide);
    EXPECT_LT(right + 0.2, narrow);
}

TEST(LocalEvidence, TellsSidesApartByWhatIsNear) {
    // Left a dark thing on a light ground, right a light thing on a dark ground: no one model of a side tells them.
    const auto isThing = [](int x, int y) { return y > 90 && x >= 0; };
    const Guide guide = guideOf([&](int x, int y) {
        const bool light = isThing(x, y) == (x > 120);
        return light ? Colour{0.8f, 0, 0} : Colour{0.3f, 0, 0};
    });
    Sides sides(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) sides.row(y)[x] = isThing(x, y) ? Side::inside : Side::outside;
    }
    const image::Plane<float> near = localEvidence(guide, sides, 0.002);
    for (const int x : {20, 220}) {
        EXPECT_GT(near.row(140)[x], 2) << x;
        EXPECT_LT(near.row(40)[x], -2) << x;
    }
}

}  // namespace dimhem::edge
