#include "core/mask/refine.h"

#include <gtest/gtest.h>
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <numbers>

#include "core/kernel/signed_distance.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/mask.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "tests/support/plain_store.h"

namespace dimhem::mask {

namespace {

using tests::at;
using tests::PlainStore;

constexpr Area area{{0, 0, 256, 256}, 0};

PartPtr part(ShapePtr shape, Combine combine = Combine::add) {
    return std::make_shared<const Part>(Part{1, "part", combine, false, true, 100, std::move(shape)});
}

ShapePtr disc(double x, double y, double radius, double featherPct = 0) {
    return std::make_shared<RadialGradient>(Oval{{x, y}, radius, radius, 0, featherPct});
}

CoveragePtr render(const Mask& mask, const Area& where = area) {
    PlainStore store;
    return mask::over(mask, where, store).value();
}

double radiusOf(const Coverage& coverage) {  // of a disc, from its area
    double sum = 0;
    for (int y = 0; y < 256; ++y) {
        for (int x = 0; x < 256; ++x) sum += at(coverage, x, y) / 65535.0;
    }
    return std::sqrt(sum / std::numbers::pi);
}

}  // namespace

TEST(SignedDistance, MatchesASlowSearch) {
    image::Plane<float> mask({60, 50});
    for (int y = 0; y < 50; ++y) {
        for (int x = 0; x < 60; ++x) {
            const bool in = std::hypot(x - 20.0, y - 25.0) < 11 || (x > 40 && y > 10 && y < 30);
            mask.row(y)[static_cast<std::size_t>(x)] = in ? 1.0f : 0.0f;
        }
    }
    const auto field = kernel::signedDistance(mask);
    ASSERT_TRUE(field.hasContour);
    for (int y = 0; y < 50; y += 3) {
        for (int x = 0; x < 60; x += 3) {
            const bool in = mask.row(y)[static_cast<std::size_t>(x)] > 0.5f;
            double nearest = 1e9;
            for (int j = 0; j < 50; ++j) {
                for (int i = 0; i < 60; ++i) {
                    if ((mask.row(j)[static_cast<std::size_t>(i)] > 0.5f) != in)
                        nearest = std::min(nearest, std::hypot(i - x, j - y));
                }
            }
            EXPECT_NEAR(field.distance.row(y)[static_cast<std::size_t>(x)], (in ? -1 : 1) * (nearest - 0.5), 1e-4)
                << x << " " << y;
        }
    }
}

// OpenCV's exact distance transform, over a shape with corners, holes and thin places.
TEST(SignedDistance, MatchesOpenCv) {
    const int width = 240, height = 180;
    image::Plane<float> mask({width, height});
    cv::Mat inside(height, width, CV_8U), outside(height, width, CV_8U);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            const bool in = (std::hypot(x - 80.0, y - 90.0) < 55 && std::hypot(x - 90.0, y - 80.0) > 12) ||
                            (x > 150 && x < 220 && y > 40 && y < 44) || (x + y > 330);
            mask.row(y)[static_cast<std::size_t>(x)] = in ? 1.0f : 0.0f;
            inside.at<uchar>(y, x) = in ? 255 : 0;
            outside.at<uchar>(y, x) = in ? 0 : 255;
        }
    }
    cv::Mat toOutside, toInside;
    cv::distanceTransform(inside, toOutside, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    cv::distanceTransform(outside, toInside, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    const auto field = kernel::signedDistance(mask);
    double worst = 0;
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            const bool in = mask.row(y)[static_cast<std::size_t>(x)] > 0.5f;
            const double expected = in ? 0.5 - toOutside.at<float>(y, x) : toInside.at<float>(y, x) - 0.5;
            worst = std::max(worst, std::abs(field.distance.row(y)[static_cast<std::size_t>(x)] - expected));
        }
    }
    std::printf("worst difference to OpenCV: %.5f px\n", worst);
    EXPECT_LT(worst, 1e-3);
}

// An expanded hard mask is what lies within that distance of it.
TEST(Refine, ExpandAgreesWithOpenCvsDistances) {
    Mask mask;
    mask.parts = {
        part(std::make_shared<Outline>(std::vector<base::Point>{{60, 60}, {180, 80}, {150, 190}, {90, 150}}, 0))};
    const auto plain = render(mask);
    cv::Mat outside(256, 256, CV_8U), distance;
    for (int y = 0; y < 256; ++y) {
        for (int x = 0; x < 256; ++x) outside.at<uchar>(y, x) = at(*plain, x, y) > 32767 ? 0 : 255;
    }
    cv::distanceTransform(outside, distance, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    for (const double by : {6.0, 17.5}) {
        mask.refine.expandPx = by;
        const auto grown = render(mask);
        for (int y = 0; y < 256; ++y) {
            for (int x = 0; x < 256; ++x) {
                const double d = distance.at<float>(y, x) - 0.5;
                if (d < by - 2) {  // at a corner, partly covered pixels reach a little further in
                    ASSERT_GT(at(*grown, x, y), 64000) << by << " at " << x << " " << y;
                }
                if (d > by + 1.3) {
                    ASSERT_LT(at(*grown, x, y), 1500) << by << " at " << x << " " << y;
                }
            }
        }
    }
}

TEST(SignedDistance, OfNoContourSaysSo) {
    image::Plane<float> mask({8, 8});
    for (int y = 0; y < 8; ++y) std::fill(mask.row(y).begin(), mask.row(y).end(), 1.0f);
    EXPECT_FALSE(kernel::signedDistance(mask).hasContour);
}

TEST(Refine, NeutralChangesNoBit) {
    Mask mask;
    mask.parts = {part(disc(120, 120, 60, 40))};
    const auto plain = render(mask);
    EXPECT_TRUE(isNeutral(mask.refine));
    mask.refine.floorPct = 0;
    EXPECT_TRUE(tests::same(*plain, *render(mask), area.rect.size()));
}

TEST(Refine, ExpandAndContractMoveTheEdgeSubPixel) {
    Mask mask;
    mask.parts = {part(disc(128, 128, 60))};
    for (const double by : {-30.0, -5.0, -0.5, 0.5, 2.0, 12.5, 40.0}) {
        mask.refine.expandPx = by;
        EXPECT_NEAR(radiusOf(*render(mask)), 60 + by, 0.35) << by;
    }
}

TEST(Refine, ExpandKeepsTheSoftnessOfTheEdge) {
    Mask mask;
    mask.parts = {
        part(std::make_shared<LinearGradient>(base::Point{100, 0}, base::Point{140, 0}, GradientProfile::linear))};
    mask.refine.expandPx = 20;
    const auto moved = render(mask);
    for (int x = 110; x < 175; ++x) {
        const double expected = std::clamp(1 - (x + 0.5 - 120) / 40, 0.0, 1.0);
        EXPECT_NEAR(at(*moved, x, 128) / 65535.0, expected, 0.03) << x;
    }
}

TEST(Refine, GapsAreFilledAndSpecksDroppedUpToTheirSize) {
    Mask mask;
    mask.parts = {part(disc(110, 110, 80)), part(disc(100, 100, 5), Combine::subtract),
                  part(disc(140, 130, 14), Combine::subtract), part(disc(225, 30, 4)), part(disc(215, 215, 15))};
    mask.refine.fillGapsPx = 16;
    mask.refine.dropSpecksPx = 12;
    const auto out = render(mask);
    EXPECT_EQ(at(*out, 100, 100), 65535) << "a small gap";
    EXPECT_EQ(at(*out, 140, 130), 0) << "a gap that is too large";
    EXPECT_EQ(at(*out, 225, 30), 0) << "a small speck";
    EXPECT_EQ(at(*out, 215, 215), 65535) << "a speck that is too large";
    EXPECT_EQ(at(*out, 60, 110), 65535);
}

TEST(Refine, SmoothRoundsWobblesAndKeepsTheArea) {
    std::vector<base::Point> wobbly;
    for (int i = 0; i < 90; ++i) {
        const double angle = i * 2 * std::numbers::pi / 90, r = 70 + (i % 2 ? 3 : -3);
        wobbly.push_back({128 + r * std::cos(angle), 128 + r * std::sin(angle)});
    }
    Mask mask;
    mask.parts = {part(std::make_shared<Outline>(wobbly, 0))};
    const auto ripple = [&](const Coverage& coverage) {
        double low = 1, high = 0;
        for (int i = 0; i < 360; ++i) {
            const double angle = i * std::numbers::pi / 180;
            const double v = at(coverage, static_cast<int>(128 + 70 * std::cos(angle)),
                                static_cast<int>(128 + 70 * std::sin(angle))) /
                             65535.0;
            low = std::min(low, v);
            high = std::max(high, v);
        }
        return high - low;
    };
    const auto rough = render(mask);
    mask.refine.smoothPx = 16;
    const auto smooth = render(mask);
    EXPECT_GT(ripple(*rough), 0.95);
    EXPECT_LT(ripple(*smooth), 0.9);
    EXPECT_NEAR(radiusOf(*smooth), radiusOf(*rough), 0.6);
}

TEST(Refine, FeatherOfAHardEdgeIsTheErrorFunction) {
    Mask mask;
    mask.parts = {part(std::make_shared<LinearGradient>(base::Point{128, 0}, base::Point{128.001, 0}))};
    for (const double feather : {6.0, 30.0, 120.0}) {
        mask.refine.featherPx = feather;
        const auto out = render(mask);
        const double sigma = feather / (2 * 1.2815515655);
        for (int x = 4; x < 252; x += 4) {
            EXPECT_NEAR(at(*out, x, 100) / 65535.0, 0.5 * std::erfc((x + 0.5 - 128) / (sigma * std::numbers::sqrt2)),
                        0.006)
                << feather << " at " << x;
        }
    }
}

TEST(Refine, FloorAndCeilingStretch) {
    Mask mask;
    mask.parts = {
        part(std::make_shared<LinearGradient>(base::Point{0, 0}, base::Point{256, 0}, GradientProfile::linear))};
    mask.refine.floorPct = 25;
    mask.refine.ceilingPct = 75;
    const auto out = render(mask);
    EXPECT_EQ(at(*out, 50, 9), 65535);
    EXPECT_EQ(at(*out, 205, 9), 0);
    EXPECT_NEAR(at(*out, 127, 9) / 65535.0, 0.5, 0.01);
}

TEST(Refine, TilesTogetherAreTheWhole) {
    Mask mask;
    mask.parts = {part(disc(110, 120, 70, 10)), part(disc(130, 100, 9), Combine::subtract), part(disc(200, 60, 30))};
    mask.refine = {24, 6.5, 10, 22, 8, 5, 95};
    const auto whole = render(mask);
    for (const int tile : {64, 96}) {
        for (int y = 0; y < 256; y += tile) {
            for (int x = 0; x < 256; x += tile) {
                const Area where{base::intersected({x, y, x + tile, y + tile}, area.rect), 0};
                const auto piece = render(mask, where);
                for (int py = where.rect.y0; py < where.rect.y1; ++py) {
                    for (int px = where.rect.x0; px < where.rect.x1; ++px) {
                        ASSERT_NEAR(at(*piece, px - where.rect.x0, py - where.rect.y0), at(*whole, px, py), 1)
                            << px << " " << py;
                    }
                }
            }
        }
    }
}

TEST(Refine, FitAgreesWithFullSize) {
    Mask mask;
    mask.parts = {part(disc(120, 128, 70, 20))};
    mask.refine = {40, -8, 12, 0, 0, 0, 100};
    const auto full = render(mask), fit = render(mask, {{0, 0, 64, 64}, 2});
    double worst = 0, sum = 0;
    for (int y = 0; y < 64; ++y) {
        for (int x = 0; x < 64; ++x) {
            double mean = 0;
            for (int i = 0; i < 16; ++i) mean += at(*full, 4 * x + i % 4, 4 * y + i / 4) / 65535.0 / 16;
            const double difference = std::abs(mean - at(*fit, x, y) / 65535.0);
            worst = std::max(worst, difference);
            sum += difference;
        }
    }
    std::printf("fit against full size: worst %.4f, mean %.5f\n", worst, sum / 4096);
    EXPECT_LT(worst, 0.05);
    EXPECT_LT(sum / 4096, 0.004);
}

}  // namespace dimhem::mask
