#include "core/repair/patches.h"

#include <gtest/gtest.h>

#include <numbers>

#include "core/repair/membrane.h"
#include "tests/core/repair/made.h"

namespace dimhem::repair {
namespace {

using tests::copyOf;
using tests::disc;
using tests::holeOf;

constexpr base::Size size{180, 150};
const Hole everywhere = image::filled(size, std::uint8_t{1});

// A weave that comes again every 12 pixels.
double weave(int x, int y) {
    return 0.5 + 0.3 * std::sin(2 * std::numbers::pi * x / 12) * std::cos(2 * std::numbers::pi * y / 12) +
           0.1 * ((x / 6 + y / 6) % 2);
}

double detailIn(const image::EncodedPlanes& planes, const Hole& hole, bool inside) {
    double sum = 0, count = 1e-9;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x + 1 < size.width; ++x) {
            if ((hole.view().at(x, y) != 0) != inside || (hole.view().at(x + 1, y) != 0) != inside) continue;
            const double d = double{planes.green.view().at(x + 1, y)} - double{planes.green.view().at(x, y)};
            sum += d * d;
            count += 1;
        }
    }
    return std::sqrt(sum / count);
}

TEST(Patches, AWeaveGoesOnThroughAHole) {
    const image::EncodedPlanes whole = tests::pictureOf(size, weave);
    for (const double radius : {6.0, 14.0, 26.0}) {
        const Hole hole = holeOf(size, disc(90, 75, radius));
        image::EncodedPlanes filled = copyOf(whole);
        fillWithPatches(filled, hole, everywhere);
        EXPECT_LT(tests::rmsInHole(filled, whole, hole), 0.05) << radius;
        EXPECT_EQ(tests::pixelsThatDifferOutside(filled, whole, hole), 0);
    }
}

// Grain has no other structure than its strength: that of the filling is that of what is around, which a membrane
// loses.
TEST(Patches, GrainStaysAsStrongAsAround) {
    for (std::uint32_t seed = 1; seed <= 6; ++seed) {
        std::mt19937 random(seed);
        std::normal_distribution<double> grain(0.5, 0.08);
        const image::EncodedPlanes whole = tests::pictureOf(size, [&](int, int) { return grain(random); });
        const Hole hole = holeOf(size, disc(90, 75, 22));
        image::EncodedPlanes filled = copyOf(whole), smooth = copyOf(whole);
        fillWithPatches(filled, hole, everywhere);
        image::Plane<float>* const planes[] = {&smooth.red, &smooth.green, &smooth.blue};
        fillMembrane(planes, hole);
        const double around = detailIn(whole, hole, false);
        EXPECT_GT(detailIn(filled, hole, true), 0.6 * around) << seed;
        EXPECT_LT(detailIn(filled, hole, true), 1.3 * around) << seed;
        EXPECT_LT(detailIn(smooth, hole, true), 0.3 * around) << seed;
    }
}

TEST(Patches, ComeOnlyFromWhereTheyMay) {
    image::EncodedPlanes whole = tests::pictureOf(size, weave);
    whole.red =
        image::planeOf(size, [](int x, int y) { return static_cast<float>(x < 90 ? 0.1 + 0.05 * weave(x, y) : 0.8); });
    const Hole hole = holeOf(size, disc(90, 75, 16));
    const Hole left = holeOf(size, [](int x, int) { return x < 70; });
    image::EncodedPlanes filled = copyOf(whole);
    fillWithPatches(filled, hole, left);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (!hole.view().at(x, y)) continue;
            EXPECT_LT(filled.red.view().at(x, y), 0.3f);
        }
    }
}

// What lay in the hole is nowhere to be seen, nor is what would lie beyond the borders of the photo.
TEST(Patches, NothingComesFromTheHoleOrFromBeyond) {
    for (const auto& isHole : {disc(80, 60, 18), disc(3, 60, 14), disc(size.width - 2, 20, 12), disc(60, 1, 15),
                               disc(60, size.height - 3, 15), disc(1, 1, 16)}) {
        const Hole hole = holeOf(size, isHole);
        image::EncodedPlanes plain = tests::stripes(size, 7, 0.02), garbage = copyOf(plain);
        float least = 1, greatest = 0;
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                if (hole.view().at(x, y)) {
                    garbage.red.view().at(x, y) = 40 + static_cast<float>((x * 31 + y * 17) % 7);
                } else {
                    least = std::min(least, plain.red.view().at(x, y));
                    greatest = std::max(greatest, plain.red.view().at(x, y));
                }
            }
        }
        fillWithPatches(plain, hole, everywhere);
        fillWithPatches(garbage, hole, everywhere);
        EXPECT_EQ(tests::rmsInHole(plain, garbage, hole), 0);
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                if (!hole.view().at(x, y)) continue;
                ASSERT_GE(plain.red.view().at(x, y), least - 1e-4f);
                ASSERT_LE(plain.red.view().at(x, y), greatest + 1e-4f);
            }
        }
    }
}

TEST(Patches, TheSamePictureGivesTheSameFilling) {
    const image::EncodedPlanes whole = tests::stripes(size, 5, 0.05);
    const Hole hole = holeOf(size, disc(80, 60, 18));
    image::EncodedPlanes once = copyOf(whole), again = copyOf(whole);
    fillWithPatches(once, hole, everywhere);
    fillWithPatches(again, hole, everywhere);
    EXPECT_EQ(tests::rmsInHole(once, again, hole), 0);
}

// Tiny, all covered, or with nothing to take from: something finite comes out.
TEST(Patches, HaveNoPictureTheyCannotTake) {
    for (const base::Size tiny : {base::Size{1, 1}, {3, 2}, {7, 7}, {40, 5}, {9, 60}}) {
        for (const auto& isHole : {std::function<bool(int, int)>([](int, int) { return true; }),
                                   std::function<bool(int, int)>([](int x, int) { return x == 0; }),
                                   std::function<bool(int, int)>([](int, int) { return false; })}) {
            image::EncodedPlanes planes = tests::pictureOf(tiny, weave);
            fillWithPatches(planes, holeOf(tiny, isHole), image::filled(tiny, std::uint8_t{1}));
            for (int y = 0; y < tiny.height; ++y) {
                for (const float v : planes.red.row(y)) EXPECT_TRUE(std::isfinite(v));
            }
        }
    }
}

TEST(Patches, CanBeStopped) {
    struct Stop {};
    image::EncodedPlanes planes = tests::stripes(size, 5, 0.05);
    int asked = 0;
    EXPECT_THROW(fillWithPatches(planes, holeOf(size, disc(80, 60, 18)), everywhere,
                                 [&] {
                                     if (++asked == 3) throw Stop{};
                                 }),
                 Stop);
}

}  // namespace
}  // namespace dimhem::repair
