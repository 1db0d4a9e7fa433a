#include "core/repair/found_source.h"

#include <gtest/gtest.h>

#include "tests/core/repair/made.h"

namespace dimhem::repair {
namespace {

using tests::disc;
using tests::holeOf;

constexpr base::Size size{220, 200};

// A spot on stripes is mended from where the stripes lie alike: whole periods away.
TEST(FoundSource, LiesAlikeOnStripes) {
    constexpr double period = 20;
    auto planes = tests::pictureOf(size, [](int x, int) { return std::fmod(x, period) < period / 2 ? 0.3 : 0.7; });
    const Hole spot = holeOf(size, disc(104, 100, 9));
    for (int rank = 0; rank < 4; ++rank) {
        const auto offset = findSource(planes, spot, rank);
        ASSERT_TRUE(offset);
        const double off = offset->x - period * std::round(offset->x / period);
        EXPECT_LE(std::abs(off), 1) << rank << ": " << offset->x << " " << offset->y;
    }
}

TEST(FoundSource, IsBesideTheHoleAndOnThePicture) {
    for (std::uint32_t seed = 1; seed <= 10; ++seed) {
        const auto planes = tests::stripes(size, seed, 0.02);
        for (const auto& [x, y] : {std::pair{30, 30}, {110, 100}, {210, 20}, {4, 190}}) {
            const Hole spot = holeOf(size, disc(x, y, 12));
            const auto offset = findSource(planes, spot, static_cast<int>(seed % 3));
            ASSERT_TRUE(offset);
            EXPECT_GE(std::hypot(offset->x, offset->y), 18) << "apart from the hole";
            EXPECT_GE(x + offset->x, 0);
            EXPECT_LT(x + offset->x, size.width);
            EXPECT_GE(y + offset->y, 0);
            EXPECT_LT(y + offset->y, size.height);
        }
    }
}

TEST(FoundSource, EachRankIsAnother) {
    const auto planes = tests::stripes(size, 4, 0.02);
    const Hole spot = holeOf(size, disc(110, 100, 10));
    std::vector<base::Point> found;
    for (int rank = 0; rank < 6; ++rank) {
        const auto offset = findSource(planes, spot, rank);
        ASSERT_TRUE(offset);
        for (const base::Point& other : found)
            EXPECT_GT(std::hypot(other.x - offset->x, other.y - offset->y), 3) << rank;
        found.push_back(*offset);
    }
}

TEST(FoundSource, ThereIsNoneWhereAllIsAHoleOrNothingIs) {
    const auto planes = tests::stripes(size, 4, 0.02);
    EXPECT_FALSE(findSource(planes, holeOf(size, [](int, int) { return true; }), 0));
    EXPECT_FALSE(findSource(planes, holeOf(size, [](int, int) { return false; }), 0));
    EXPECT_FALSE(findSource(planes, holeOf(size, [](int x, int) { return x < 200; }), 0));
}

}  // namespace
}  // namespace dimhem::repair
