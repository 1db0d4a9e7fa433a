// Kernels that look at an area: the Gaussian and what hangs together.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>
#include <string>
#include <vector>

#include "core/kernel/components.h"
#include "core/kernel/gaussian.h"

namespace dimhem::kernel {

namespace {

image::Plane<float> noise(base::Size size) {
    std::mt19937 random(5);
    image::Plane<float> plane(size);
    for (int y = 0; y < size.height; ++y) {
        for (float& v : plane.row(y)) v = static_cast<float>(random() / 4294967296.0);
    }
    return plane;
}

image::Plane<std::uint8_t> picture(const std::vector<std::string>& rows) {
    image::Plane<std::uint8_t> plane({static_cast<int>(rows[0].size()), static_cast<int>(rows.size())});
    for (int y = 0; y < plane.size().height; ++y) {
        for (int x = 0; x < plane.size().width; ++x) {
            plane.row(y)[static_cast<std::size_t>(x)] =
                rows[static_cast<std::size_t>(y)][static_cast<std::size_t>(x)] == '#';
        }
    }
    return plane;
}

}  // namespace

TEST(Gaussian, MatchesASlowSumInTwoDimensions) {
    for (const double sigma : {0.6, 1.7, 4.0}) {
        const base::Size size{33, 27};
        image::Plane<float> blurred = noise(size);
        const image::Plane<float> plain = noise(size);
        gaussianBlur(blurred, sigma);
        const int reach = gaussianReach(sigma);
        for (int y = 0; y < size.height; y += 5) {
            for (int x = 0; x < size.width; x += 5) {
                double sum = 0, weights = 0;
                for (int j = -reach; j <= reach; ++j) {
                    for (int i = -reach; i <= reach; ++i) {
                        const double w = std::exp(-(i * i + j * j) / (2 * sigma * sigma));
                        const int px = std::clamp(x + i, 0, size.width - 1), py = std::clamp(y + j, 0, size.height - 1);
                        sum += w * plain.row(py)[static_cast<std::size_t>(px)];
                        weights += w;
                    }
                }
                EXPECT_NEAR(blurred.row(y)[static_cast<std::size_t>(x)], sum / weights, 1e-5)
                    << sigma << " at " << x << " " << y;
            }
        }
    }
}

TEST(Gaussian, LeavesPlainAreasAndTinySigmasAlone) {
    image::Plane<float> plane({40, 30});
    for (int y = 0; y < 30; ++y) std::fill(plane.row(y).begin(), plane.row(y).end(), 0.25f);
    gaussianBlur(plane, 5);
    for (int y = 0; y < 30; ++y) {
        for (const float v : plane.row(y)) ASSERT_NEAR(v, 0.25f, 1e-6);
    }
    image::Plane<float> same = noise({20, 20});
    const image::Plane<float> before = noise({20, 20});
    gaussianBlur(same, 0.01);
    EXPECT_TRUE(std::equal(same.row(7).begin(), same.row(7).end(), before.row(7).begin()));
}

TEST(Gaussian, ItsEdgeDistanceIsFromNinetyToTenPercent) {
    // The normal distribution: 10 % lie beyond 1.2816 sigma.
    EXPECT_NEAR(0.5 * std::erfc(0.5 / sigmaPerEdgeDistance / std::sqrt(2.0)), 0.1, 1e-9);
}

TEST(Components, AreCountedWithTheirBoxes) {
    const auto ones = picture({"##....#", "##...#.", "....#..", "#......"});
    image::Plane<std::int32_t> labels(ones.size());
    const auto eight = components(ones, 8, labels);
    ASSERT_EQ(eight.size(), 3u);
    EXPECT_EQ(eight[0].bounds, (base::Rect{0, 0, 2, 2}));
    EXPECT_EQ(eight[0].pixels, 4);
    EXPECT_EQ(eight[1].bounds, (base::Rect{4, 0, 7, 3})) << "the diagonal";
    EXPECT_EQ(labels.row(3)[0], 3);
    EXPECT_EQ(labels.row(3)[3], 0);
    EXPECT_EQ(components(ones, 4, labels).size(), 5u) << "the diagonal falls apart";
}

TEST(Components, FloodStartsOnlyOnOnes) {
    const auto ones = picture({"##.#", "...#", "#..."});
    const base::Point places[] = {{0.5, 0.5}, {2.5, 0.5}, {-7, 3}, {99, 0}};
    const auto reached = floodedFrom(ones, places);
    EXPECT_EQ(reached.row(0)[1], 1);
    EXPECT_EQ(reached.row(0)[3], 0);
    EXPECT_EQ(reached.row(2)[0], 0);
}

}  // namespace dimhem::kernel
