#include "core/kernel/box_sum.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <random>

namespace dimhem::kernel {

namespace {

image::Plane<float> randomPlane(base::Size size, std::uint32_t seed) {
    std::mt19937 random(seed);
    image::Plane<float> plane(size);
    for (int y = 0; y < size.height; ++y) {
        for (float& v : plane.row(y)) v = static_cast<float>(random() / 4294967296.0 - 0.3);
    }
    return plane;
}

double slowSum(const image::Plane<float>& plane, int x, int y, int radius, int& count) {
    double sum = 0;
    count = 0;
    for (int j = std::max(0, y - radius); j <= std::min(plane.size().height - 1, y + radius); ++j) {
        for (int i = std::max(0, x - radius); i <= std::min(plane.size().width - 1, x + radius); ++i) {
            sum += double{plane.row(j)[static_cast<std::size_t>(i)]};
            ++count;
        }
    }
    return sum;
}

}  // namespace

TEST(BoxSum, IsTheSumOverTheWindowAtEveryRadius) {
    const image::Plane<float> plane = randomPlane({45, 31}, 3);
    for (const int radius : {0, 1, 2, 3, 4, 7, 8, 12, 15, 26}) {
        const image::Plane<float> sum = boxSum(plane, radius), mean = boxMean(plane, radius);
        for (int y = 0; y < 31; ++y) {
            for (int x = 0; x < 45; ++x) {
                int count = 0;
                const double expected = slowSum(plane, x, y, radius, count);
                ASSERT_NEAR(sum.row(y)[static_cast<std::size_t>(x)], expected, 2e-6 * count + 1e-6) << radius;
                ASSERT_NEAR(mean.row(y)[static_cast<std::size_t>(x)], expected / count, 3e-6) << radius;
            }
        }
    }
}

TEST(BoxSum, WindowsLargerThanThePlaneTakeAllOfIt) {
    const image::Plane<float> plane = randomPlane({6, 4}, 5), sum = boxSum(plane, 20);
    int count = 0;
    const double all = slowSum(plane, 3, 2, 20, count);
    EXPECT_EQ(count, 24);
    for (int y = 0; y < 4; ++y) {
        for (const float v : sum.row(y)) EXPECT_NEAR(v, all, 1e-4);
    }
}

TEST(BoxSum, IsTheSameBitsWhereverThePlaneBegins) {
    // Work is cut into blocks that see a margin: what both see must not depend on the block.
    const image::Plane<float> plane = randomPlane({70, 60}, 7);
    for (const int radius : {2, 9, 14}) {
        const base::Rect part{13, 11, 66, 55};
        const image::Plane<float> whole = boxSum(plane, radius), cut = boxSum(image::cropped(plane, part), radius);
        for (int y = part.y0 + radius; y < part.y1 - radius; ++y) {
            for (int x = part.x0 + radius; x < part.x1 - radius; ++x) {
                ASSERT_EQ(whole.row(y)[static_cast<std::size_t>(x)],
                          cut.row(y - part.y0)[static_cast<std::size_t>(x - part.x0)]);
            }
        }
    }
}

TEST(BoxSum, NoErrorRunsAlongFromALargeValue) {
    image::Plane<float> plane({64, 8});
    for (int y = 0; y < 8; ++y) std::fill(plane.row(y).begin(), plane.row(y).end(), 1e-4f);
    plane.row(4)[2] = 1e9f;
    const image::Plane<float> sum = boxSum(plane, 1);
    EXPECT_NEAR(sum.row(4)[30], 9e-4f, 1e-9f) << "far from it nothing of it is left";
}

}  // namespace dimhem::kernel
