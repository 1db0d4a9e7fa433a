// Healing as it is put together from the membrane, against another solver of the same equation.
#include <gtest/gtest.h>

#include <opencv2/core.hpp>
#include <opencv2/photo.hpp>

#include "core/repair/membrane.h"
#include "tests/core/repair/made.h"

namespace dimhem::repair {
namespace {

using tests::holeOf;

// Outside check: OpenCV's seamlessClone (Perez et al. 2003), of a rectangle, over which it solves with what is around
// as its border. Both keep the source's gradients; OpenCV works in 8 bits.
TEST(Healing, AgreesWithOpenCvsSeamlessCloneOverARectangle) {
    constexpr base::Size size{120, 100};
    const base::Rect place{40, 30, 90, 75};
    cv::Mat source(size.height, size.width, CV_8UC3), target = source.clone(), out;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto at = [&](double v) { return cv::saturate_cast<uchar>(v); };
            const double texture = 24 * std::sin(0.4 * x) * std::cos(0.33 * y);
            source.at<cv::Vec3b>(y, x) = {at(90 + texture), at(110 + texture), at(100 + texture)};
            target.at<cv::Vec3b>(y, x) = {at(60 + 0.8 * x), at(100 + 0.5 * y), at(150 - 0.4 * x)};
        }
    }
    const cv::Mat mask(place.height(), place.width(), CV_8U, cv::Scalar(255));
    const cv::Mat patch = source(cv::Rect(place.x0, place.y0, place.width(), place.height()));
    cv::seamlessClone(patch, target, mask, cv::Point((place.x0 + place.x1) / 2, (place.y0 + place.y1) / 2), out,
                      cv::NORMAL_CLONE);
    // OpenCV takes the target's gradients over a rim of some pixels, which it eats off the mask.
    constexpr int rim = 4, within = rim + 8;
    const Hole hole = holeOf(size, [&](int x, int y) {
        return x >= place.x0 + rim && x < place.x1 - rim && y >= place.y0 + rim && y < place.y1 - rim;
    });
    double worst = 0, sum = 0, count = 0;
    for (int c = 0; c < 3; ++c) {
        image::Plane<float> tone = image::planeOf(size, [&](int x, int y) {
            return static_cast<float>(target.at<cv::Vec3b>(y, x)[c] - source.at<cv::Vec3b>(y, x)[c]);
        });
        image::Plane<float>* const planes[] = {&tone};
        fillMembrane(planes, hole);
        for (int y = place.y0 + within; y < place.y1 - within; ++y) {
            for (int x = place.x0 + within; x < place.x1 - within; ++x) {
                const double healed = 1.0 * source.at<cv::Vec3b>(y, x)[c] + double{tone.view().at(x, y)};
                const double off = std::abs(std::clamp(healed, 0.0, 255.0) - 1.0 * out.at<cv::Vec3b>(y, x)[c]);
                worst = std::max(worst, off);
                sum += off;
                count += 1;
            }
        }
    }
    std::printf("off by %.2f levels in the mean, %.2f at worst\n", sum / count, worst);
    EXPECT_LT(sum / count, 1);
    EXPECT_LT(worst, 2.5);
}

}  // namespace
}  // namespace dimhem::repair
