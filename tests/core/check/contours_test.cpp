#include "core/check/contours.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace dimhem::check {

namespace {

image::Plane<std::uint16_t> cone(double cx, double cy) {  // falls from the middle; the value is 65535 less 1000 a pixel
    image::Plane<std::uint16_t> plane({80, 60});
    for (int y = 0; y < 60; ++y) {
        for (int x = 0; x < 80; ++x) {
            const double d = std::hypot(x + 0.5 - cx, y + 0.5 - cy);
            plane.row(y)[static_cast<std::size_t>(x)] = static_cast<std::uint16_t>(std::max(0.0, 65535 - 1000 * d));
        }
    }
    return plane;
}

}  // namespace

TEST(Contours, OfAConeAreCircles) {
    const auto lines = contours(cone(40, 30), 65535 - 20'000);
    ASSERT_EQ(lines.size(), 1u);
    EXPECT_EQ(lines[0].front(), lines[0].back());
    EXPECT_GT(lines[0].size(), 100u);
    for (const base::Point& p : lines[0]) EXPECT_NEAR(std::hypot(p.x - 40, p.y - 30), 20, 0.05);
}

TEST(Contours, ThatRunOutOfThePlaneStayOpen) {
    const auto lines = contours(cone(0, 30), 65535 - 20'000);
    ASSERT_EQ(lines.size(), 1u);
    EXPECT_NE(lines[0].front(), lines[0].back());
    EXPECT_NEAR(lines[0].front().x, 0.5, 1e-9);
    EXPECT_NEAR(lines[0].back().x, 0.5, 1e-9);
}

TEST(Contours, OfAPlainPlaneAreNone) {
    image::Plane<std::uint16_t> plane({10, 10});
    for (int y = 0; y < 10; ++y) std::fill(plane.row(y).begin(), plane.row(y).end(), std::uint16_t{100});
    EXPECT_TRUE(contours(plane, 500).empty());
}

TEST(Contours, EachPieceHasItsOwn) {
    image::Plane<std::uint16_t> plane({30, 10});
    for (int y = 0; y < 10; ++y) {
        for (int x = 0; x < 30; ++x)
            plane.row(y)[static_cast<std::size_t>(x)] = (x / 5) % 2 == 1 && y > 2 && y < 7 ? 60000 : 0;
    }
    EXPECT_EQ(contours(plane, 30000).size(), 3u);
}

}  // namespace dimhem::check
