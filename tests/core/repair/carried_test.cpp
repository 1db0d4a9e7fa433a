#include "core/repair/carried.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <opencv2/core.hpp>
#include <opencv2/photo.hpp>

#include "tests/core/repair/made.h"

namespace dimhem::repair {
namespace {

using tests::copyOf;
using tests::holeOf;

constexpr base::Size size{160, 140};

Hole scratch(std::uint32_t seed, double width) {
    std::mt19937 random(seed * 7 + 1);
    std::uniform_real_distribution<double> some(0, 1);
    const double slope = 2 * some(random) - 1, at = 50 + 40 * some(random);
    return holeOf(size, [=](int x, int y) { return std::abs(y - at - slope * (x - 80)) < width / 2; });
}

image::EncodedPlanes inpaintedByOpenCv(const image::EncodedPlanes& planes, const Hole& hole, int method) {
    cv::Mat picture(size.height, size.width, CV_8UC3), mask(size.height, size.width, CV_8U), out;
    const auto byte = [](float v) { return cv::saturate_cast<uchar>(v * 255); };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            picture.at<cv::Vec3b>(y, x) = {byte(planes.blue.view().at(x, y)), byte(planes.green.view().at(x, y)),
                                           byte(planes.red.view().at(x, y))};
            mask.at<uchar>(y, x) = hole.view().at(x, y);
        }
    }
    cv::inpaint(picture, mask, out, 5, method);
    image::EncodedPlanes planesOut(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const cv::Vec3b v = out.at<cv::Vec3b>(y, x);
            planesOut.blue.view().at(x, y) = static_cast<float>(v[0]) / 255;
            planesOut.green.view().at(x, y) = static_cast<float>(v[1]) / 255;
            planesOut.red.view().at(x, y) = static_cast<float>(v[2]) / 255;
        }
    }
    return planesOut;
}

// Outside check: OpenCV's two ways of inpainting thin holes (Telea 2004; Bertalmio, Bertozzi and Sapiro 2001), on
// seeded stripes that a scratch crosses.
TEST(Carried, MendsThinScratchesBetterThanOpenCv) {
    for (const double noise : {0.0, 0.02}) {
        std::vector<double> ratios;
        for (std::uint32_t seed = 1; seed <= 24; ++seed) {
            const image::EncodedPlanes clean = tests::stripes(size, seed, 0), noisy = tests::stripes(size, seed, noise);
            const Hole hole = scratch(seed, 7);
            image::EncodedPlanes ours = copyOf(noisy);
            fillAlong(ours, hole, {}, 1);
            const double own = tests::rmsInHole(ours, clean, hole);
            const double telea = tests::rmsInHole(inpaintedByOpenCv(noisy, hole, cv::INPAINT_TELEA), clean, hole);
            const double flow = tests::rmsInHole(inpaintedByOpenCv(noisy, hole, cv::INPAINT_NS), clean, hole);
            ratios.push_back(own / std::min(telea, flow));
            EXPECT_EQ(tests::pixelsThatDifferOutside(ours, noisy, hole), 0);
        }
        std::ranges::sort(ratios);
        std::printf("noise %g: error beside the better of OpenCV's, median %.2f, worst %.2f\n", noise,
                    ratios[ratios.size() / 2], ratios.back());
        EXPECT_LT(ratios[ratios.size() / 2], 0.6);
        EXPECT_LT(ratios.back(), 1.1);
    }
}

// A marked direction: stripes go on through a hole far wider than they are.
TEST(Carried, FollowsMarkedLines) {
    const auto value = [](int x, int y) { return 0.5 + 0.4 * std::sin(0.35 * (x - 0.5 * y)); };
    const image::EncodedPlanes whole = tests::pictureOf(size, value);
    const Hole hole = holeOf(size, tests::disc(80, 70, 40));
    image::EncodedPlanes filled = copyOf(whole), other = copyOf(whole);
    const Mark along{{60, 30}, {110, 130}};  // x = y / 2 + a constant
    fillAlong(filled, hole, {&along, 1}, 0.5);
    EXPECT_LT(tests::rmsInHole(filled, whole, hole), 0.06);
    const Mark across{{60, 70}, {100, 50}};
    fillAlong(other, hole, {&across, 1}, 0.5);
    EXPECT_GT(tests::rmsInHole(other, whole, hole), 0.2);
}

// The lines' directions are worked out once for each pixel of the hole, however many lines pass it.
TEST(Carried, CanBeStoppedAndIsTheSameWhicheverWayAMarkIsDrawn) {
    const auto value = [](int x, int y) { return 0.5 + 0.4 * std::sin(0.35 * (x - 0.5 * y)); };
    const image::EncodedPlanes whole = tests::pictureOf(size, value);
    const Hole hole = holeOf(size, tests::disc(80, 70, 40));
    image::EncodedPlanes one = copyOf(whole), other = copyOf(whole);
    const Mark along{{60, 30}, {110, 130}}, back{{110, 130}, {60, 30}};
    int pauses = 0;
    fillAlong(one, hole, {&along, 1}, 0.5, Elsewhere::membrane, [&] { ++pauses; });
    fillAlong(other, hole, {&back, 1}, 0.5);
    EXPECT_LT(tests::rmsInHole(one, other, hole), 1e-4);
    EXPECT_GE(pauses, 2 * size.height) << "once a row at least";
    for (int stop = 0; stop < pauses; stop += 17) {
        image::EncodedPlanes stopped = copyOf(whole);
        int left = stop;
        const auto pause = [&] {
            if (left-- == 0) throw std::runtime_error("stopped");
        };
        EXPECT_THROW(fillAlong(stopped, hole, {&along, 1}, 0.5, Elsewhere::membrane, pause), std::runtime_error);
        EXPECT_EQ(tests::rmsInHole(stopped, whole, hole), 0) << "nothing half is left";
    }
}

// Every direction there is, by marks at each angle: the half of a doubled angle is that angle.
TEST(Carried, MarksOfAnyAngleAreFollowed) {
    for (int degrees = 0; degrees < 180; degrees += 12) {
        const double angle = degrees * 3.14159265358979 / 180, c = std::cos(angle), s = std::sin(angle);
        const image::EncodedPlanes whole =
            tests::pictureOf(size, [&](int x, int y) { return 0.5 + 0.4 * std::sin(0.3 * (c * y - s * x)); });
        const Hole hole = holeOf(size, tests::disc(80, 70, 25));
        image::EncodedPlanes filled = copyOf(whole);
        const Mark mark{{80 - 30 * c, 70 - 30 * s}, {80 + 30 * c, 70 + 30 * s}};
        fillAlong(filled, hole, {&mark, 1}, 0.5);
        EXPECT_LT(tests::rmsInHole(filled, whole, hole), 0.08) << degrees;
    }
}

TEST(Carried, WithoutADirectionItIsAsSmoothAsWhatIsAround) {
    const image::EncodedPlanes slope = tests::pictureOf(size, [](int x, int y) { return 0.2 + 0.002 * x + 0.001 * y; });
    const Hole hole = holeOf(size, tests::disc(70, 60, 20));
    image::EncodedPlanes filled = copyOf(slope);
    fillAlong(filled, hole, {}, 0);
    EXPECT_LT(tests::rmsInHole(filled, slope, hole), 0.004);
}

TEST(Carried, AHoleThatIsTheWholePictureIsLeftAlone) {
    const image::EncodedPlanes whole = tests::stripes(size, 3, 0);
    image::EncodedPlanes filled = copyOf(whole);
    const Hole all = holeOf(size, [](int, int) { return true; });
    fillAlong(filled, all, {}, 1);
    EXPECT_EQ(tests::rmsInHole(filled, whole, all), 0);
}

}  // namespace
}  // namespace dimhem::repair
