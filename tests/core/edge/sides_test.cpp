#include "core/edge/sides.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/edge/barrier.h"
#include "core/edge/side_sums.h"
#include "tests/support/edge_scene.h"

namespace dimhem::edge {

TEST(Sides, AreTakenAtOneHalfAndBelowZeroIsUnknown) {
    image::Plane<float> mask({4, 1});
    const float values[] = {0.2f, 0.51f, -1.0f, 0.5f};
    std::copy(std::begin(values), std::end(values), mask.row(0).begin());
    const Sides sides = sidesOf(mask);
    EXPECT_EQ(sides.row(0)[0], Side::outside);
    EXPECT_EQ(sides.row(0)[1], Side::inside);
    EXPECT_EQ(sides.row(0)[2], Side::unknown);
    EXPECT_EQ(sides.row(0)[3], Side::outside);
}

TEST(Sides, DistanceIsWithinEightPercentOfTheEuclidean) {
    tests::EdgeScene scene;
    scene.outside = [](double x, double y) { return std::hypot(x - 120, y - 90) - 40; };
    const image::Plane<float> distance = distanceToEdge(sidesOf(scene.matte()), 30);
    scene.forEach([&](int x, int y) {
        const double euclidean = std::abs(std::hypot(x + 0.5 - 120, y + 0.5 - 90) - 40);
        const double found = double{distance.row(y)[static_cast<std::size_t>(x)]};
        if (euclidean > 28) return;
        ASSERT_NEAR(found, euclidean, 0.08 * euclidean + 1.1) << x << " " << y;
    });
    EXPECT_GT(distance.row(0)[0], 30) << "beyond the limit it is only said to be beyond";
}

TEST(Sides, UnknownPixelsTakeTheSideOfWhatIsAboutThem) {
    Sides sides({5, 5});
    for (int y = 0; y < 5; ++y) std::fill(sides.row(y).begin(), sides.row(y).end(), Side::unknown);
    sides.row(2)[2] = Side::inside;
    fillUnknown(sides);
    for (int y = 0; y < 5; ++y) {
        for (const Side side : sides.row(y)) EXPECT_EQ(side, Side::inside);
    }
    Sides none({3, 3});
    for (int y = 0; y < 3; ++y) std::fill(none.row(y).begin(), none.row(y).end(), Side::unknown);
    fillUnknown(none);
    EXPECT_EQ(none.row(1)[1], Side::unknown);
}

TEST(SideSums, CountOneSideBeyondTheBand) {
    tests::EdgeScene scene;
    scene.outside = [](double x, double) { return x - 120; };
    const Guide guide = scene.guide();
    const Sides sides = sidesOf(scene.matte());
    const SideSums sums = sideSums(guide, sides, distanceToEdge(sides, 20), Side::inside, 10, 15);
    // About (120, 90) the window reaches from 105: of these columns those more than 10 from the edge count.
    double count = 0, sum = 0, square = 0;
    for (int y = 75; y <= 105; ++y) {
        for (std::size_t x = 105; x <= 109; ++x) {
            ++count;
            sum += double{guide.l.row(y)[x]};
            square += double{guide.l.row(y)[x]} * double{guide.l.row(y)[x]};
        }
    }
    EXPECT_EQ(sums.count.row(90)[120], count);
    EXPECT_NEAR(sums.sum[0].row(90)[120], sum, 1e-3);
    EXPECT_NEAR(sums.square[0].row(90)[120], square, 1e-3);
}

TEST(Barrier, IsTheLeastOfTheGreatestStepsOnTheWay) {
    // Two walls with a low gate in the first: the way leads through the gate.
    Guide guide{image::Plane<float>({30, 20}), image::Plane<float>({30, 20}), image::Plane<float>({30, 20})};
    for (int y = 0; y < 20; ++y) {
        for (int x = 0; x < 30; ++x) {
            const bool wall = x == 10, gate = wall && y == 4, second = x == 20;
            const auto i = static_cast<std::size_t>(x);
            guide.l.row(y)[i] = gate ? 0.6f : wall ? 0.9f : second ? 0.75f : 0.5f;
            guide.a.row(y)[i] = guide.b.row(y)[i] = 0;
        }
    }
    const image::Plane<float> barrier = barrierFrom(guide, [](int x, int y) { return x == 2 && y == 15; });
    EXPECT_EQ(barrier.row(15)[2], 0);
    EXPECT_NEAR(barrier.row(2)[5], 0, 1e-3);
    EXPECT_NEAR(barrier.row(15)[15], 0.1, 2e-3) << "by the gate";
    EXPECT_NEAR(barrier.row(15)[28], 0.25, 2e-3) << "over the second wall";
    const image::Plane<float> none = barrierFrom(guide, [](int, int) { return false; });
    EXPECT_EQ(none.row(3)[3], 1) << "nowhere to come from";
}

}  // namespace dimhem::edge
