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

// Of a picture of chance only the true copy of the hole's surroundings is alike: it is found as far out as the photo
// goes.
TEST(FoundSource, SourcesAtAllFourBordersAreFound) {
    constexpr base::Size small{131, 121};
    constexpr int half = 12;  // of the box that is copied: the hole, of nine, and its rim of three
    const Hole spot = holeOf(small, disc(65, 60, 9));
    for (const auto& [cx, cy] :
         {std::pair{half, 60}, {small.width - 1 - half, 60}, {65, half}, {65, small.height - 1 - half}}) {
        std::mt19937 random(11);
        auto planes = tests::pictureOf(small, [&](int, int) { return (random() % 1000) / 1000.0; });
        for (image::Plane<float>* plane : {&planes.red, &planes.green, &planes.blue}) {
            for (int y = -half; y <= half; ++y) {
                for (int x = -half; x <= half; ++x) plane->view().at(cx + x, cy + y) = plane->view().at(65 + x, 60 + y);
            }
        }
        const auto offset = findSource(planes, spot, 0);
        ASSERT_TRUE(offset);
        EXPECT_EQ(offset->x, cx - 65);
        EXPECT_EQ(offset->y, cy - 60);
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
