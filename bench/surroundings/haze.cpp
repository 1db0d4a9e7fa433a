// The hazy demo photo against its truth: far places, those seen past the edges of near ones, and the near ones; beside
// the dark channel with OpenCV's guided filter.
#include <chrono>
#include <cmath>
#include <cstdio>
#include <opencv2/imgproc.hpp>
#include <opencv2/ximgproc/edge_filter.hpp>

#include "bench/surroundings/outcomes.h"
#include "bench/surroundings/pictures.h"
#include "core/edge/transmission.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::surroundings {

namespace {

struct Truth {
    image::EncodedPlanes clean;
    image::Plane<float> through;  // the share of the light that comes through
    image::Plane<float> far, edge, near;
};

Truth truthOf(const std::string& demo) {
    Truth truth{readPicture(demo + "/truth/headlands-clean.jpg"), {}, {}, {}, {}};
    const image::EncodedPlanes near = readPicture(demo + "/truth/headlands-near.png"),
                               through = readPicture(demo + "/truth/headlands-through.png");
    const base::Size size = truth.clean.size();
    const auto nearAt = [&](int x, int y) { return near.red.row(y)[static_cast<std::size_t>(x)]; };
    const auto isFar = [&](int x, int y) {
        return nearAt(x, y) < 0.02f && through.red.row(y)[static_cast<std::size_t>(x)] > 0.06f;
    };
    truth.through = image::copied(through.red);
    truth.near = image::copied(near.red);
    truth.far = image::planeOf(size, [&](int x, int y) { return isFar(x, y) ? 1.0f : 0.0f; });
    truth.edge = image::planeOf(size, [&](int x, int y) {
        constexpr int by = 8;
        if (x < by || y < by || x >= size.width - by || y >= size.height - by || !isFar(x, y)) return 0.0f;
        for (int j = -by; j <= by; j += by / 2) {
            for (int i = -by; i <= by; i += by / 2) {
                if (nearAt(x + i, y + j) > 0.5f) return 1.0f;
            }
        }
        return 0.0f;
    });
    return truth;
}

void print(const char* name, const image::EncodedPlanes& picture, const Truth& truth, double ms) {
    std::printf("%-34s %6.2f %6.2f %6.2f %8.0f\n", name, differenceOf(picture, truth.clean, truth.far).deltaE,
                differenceOf(picture, truth.clean, truth.edge).deltaE,
                differenceOf(picture, truth.clean, truth.near).deltaE, ms / megapixels(truth.clean.size()));
    std::fflush(stdout);
}

// The dark channel of 15 x 15 at half size, 0.95 of it haze, evened out by the guided filter; the same air light.
image::EncodedPlanes darkChannel(const image::EncodedPlanes& hazy, double& ms) {
    const auto from = std::chrono::steady_clock::now();
    image::LinearPlanes light = kernel::decoded(copied(hazy));
    const colour::LinearRgb air = edge::airLight(light);
    const base::Size size = hazy.size();
    cv::Mat picture(size.height, size.width, CV_32FC3), dark(size.height, size.width, CV_32F);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto i = static_cast<std::size_t>(x);
            const float r = light.red.row(y)[i], g = light.green.row(y)[i], b = light.blue.row(y)[i];
            picture.at<cv::Vec3f>(y, x) = {r, g, b};
            dark.at<float>(y, x) =
                std::min({r / static_cast<float>(air.r), g / static_cast<float>(air.g), b / static_cast<float>(air.b)});
        }
    }
    cv::erode(dark, dark, cv::getStructuringElement(cv::MORPH_RECT, {25, 25}));
    cv::Mat t = 1 - 0.95 * dark;
    cv::ximgproc::guidedFilter(picture, t, t, 60, 1e-4);
    const auto cleared = [&](image::Plane<float>& plane, double of) {
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                float& v = plane.row(y)[static_cast<std::size_t>(x)];
                v = static_cast<float>(of + (double{v} - of) / std::max(0.1, double{t.at<float>(y, x)}));
            }
        }
    };
    cleared(light.red, air.r);
    cleared(light.green, air.g);
    cleared(light.blue, air.b);
    ms = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - from).count();
    return kernel::encoded(std::move(light));
}

// Other haze over the same scene: thinner or thicker by the power, of another colour (linear).
image::EncodedPlanes seeded(const Truth& truth, double power, const colour::LinearRgb& air) {
    image::LinearPlanes light = kernel::decoded(copied(truth.clean));
    const double of[3] = {air.r, air.g, air.b};
    image::Plane<float>* planes[3] = {&light.red, &light.green, &light.blue};
    for (int c = 0; c < 3; ++c) {
        for (int y = 0; y < truth.through.size().height; ++y) {
            for (std::size_t x = 0; x < truth.through.row(y).size(); ++x) {
                const double t = std::pow(double{truth.through.row(y)[x]}, power);
                float& v = planes[c]->row(y)[x];
                v = static_cast<float>(t * double{v} + (1 - t) * of[c]);
            }
        }
    }
    return withNoise(
        kernel::encoded(std::move(light)), [](double) { return 0.7; }, 5);
}

void compare(const image::EncodedPlanes& hazy, const Truth& truth) {
    print("as it is", hazy, truth, 0);
    double ms = 0;
    const image::EncodedPlanes dark = darkChannel(hazy, ms);
    print("dark channel, OpenCV guided filter", dark, truth, ms);
    const auto photo = photoOf(hazy);
    for (const auto& [name, adjustment] :
         {std::pair{"corrected", R"({"kind": "haze", "amount": 100, "floor": 8})"},
          {"corrected, a near mark", R"({"kind": "haze", "amount": 100, "floor": 8, "near": [[1250, 1500]]})"},
          {"corrected, noise first", R"({"kind": "noise", "luminance": 80, "colour": 100, "blotches": 100},
                                        {"kind": "haze", "amount": 100, "floor": 8})"}}) {
        const Corrected ours = corrected(photo, adjustment);
        print(name, ours.picture, truth, ours.renderingMs);
    }
}

}  // namespace

void hazeOutcomes(const std::string& demo) {
    const Truth truth = truthOf(demo);
    const image::EncodedPlanes hazy = readPicture(demo + "/headlands.jpg");
    std::printf("\nHaze: mean CIEDE2000 far, past the edges of what is near, and near; ms a megapixel\n");
    compare(hazy, truth);
    std::printf("half as thick, warm\n");
    compare(pictureOf(*photoOf(seeded(truth, 0.5, {0.9, 0.78, 0.6}))), truth);
    std::printf("half as thick again, blue\n");
    compare(pictureOf(*photoOf(seeded(truth, 1.5, {0.5, 0.6, 0.75}))), truth);
}

}  // namespace dimhem::surroundings
