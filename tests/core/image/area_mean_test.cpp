#include "core/image/area_mean.h"

#include <gtest/gtest.h>

#include <numeric>
#include <opencv2/imgproc.hpp>
#include <random>

namespace dimhem::image {

TEST(AreaMean, SharesCoverEachPixelOnce) {
    for (const auto& [from, to] : {std::pair(7, 7), std::pair(7, 1), std::pair(100, 33), std::pair(6016, 2048),
                                   std::pair(1'000'000, 999'999), std::pair(512, 128)}) {
        std::vector<double> covered(static_cast<std::size_t>(from));
        for (const AxisShare& share : axisShares(from, to)) {
            ASSERT_GE(share.first, 0);
            ASSERT_LT(share.last, from);
            double sum = 0;
            for (int at = share.first; at <= share.last; ++at) {
                covered[static_cast<std::size_t>(at)] += share.of(at);
                sum += share.of(at);
            }
            ASSERT_NEAR(sum, 1, 1e-5) << from << " to " << to;
        }
        const double each = static_cast<double>(to) / from;
        for (const double part : covered) ASSERT_NEAR(part, each, 1e-5) << from << " to " << to;
    }
}

// Reference: OpenCV's resize with INTER_AREA, documented as resampling by pixel area relation.
TEST(AreaMean, IsTheAreaResizeOfOpenCv) {
    std::mt19937 random(5);
    std::uniform_real_distribution<float> values(0, 1);
    for (const auto& [from, to] : {std::pair(97, 31), std::pair(640, 479), std::pair(64, 16)}) {
        cv::Mat1f row(1, from), expected;
        for (float& value : row) value = values(random);
        cv::resize(row, expected, cv::Size(to, 1), 0, 0, cv::INTER_AREA);
        std::vector<float> out(static_cast<std::size_t>(to));
        meanRow({row.ptr<float>(0), static_cast<std::size_t>(from)}, axisShares(from, to), out);
        for (int x = 0; x < to; ++x) EXPECT_NEAR(out[static_cast<std::size_t>(x)], expected(0, x), 2e-4) << x;
    }
}

TEST(AreaMean, SizesKeepTheShapeAndNeverGrow) {
    EXPECT_EQ(sizeWithin({6000, 4000}, 3000), (base::Size{3000, 2000}));
    EXPECT_EQ(sizeWithin({4000, 6000}, 1000), (base::Size{667, 1000}));
    EXPECT_EQ(sizeWithin({640, 480}, 5000), (base::Size{640, 480}));
    EXPECT_EQ(sizeWithin({100'000, 3}, 100), (base::Size{100, 1}));
}

}  // namespace dimhem::image
