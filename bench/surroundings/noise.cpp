// Noise of known strength on clean pictures, and the noisy demo photo against its truth; beside OpenCV's non-local
// means, at the strength that suits it best.
#include <chrono>
#include <cstdio>
#include <opencv2/imgproc.hpp>
#include <opencv2/photo.hpp>

#include "bench/surroundings/outcomes.h"
#include "bench/surroundings/pictures.h"

namespace dimhem::surroundings {

namespace {

constexpr auto removing = R"({"kind": "noise", "luminance": 100, "colour": 100, "blotches": 100})";

struct Baseline {
    image::EncodedPlanes picture;
    double ms = 0;
};

cv::Mat matOf(const image::EncodedPlanes& picture) {
    cv::Mat mat(picture.size().height, picture.size().width, CV_8UC3);
    for (int y = 0; y < mat.rows; ++y) {
        for (int x = 0; x < mat.cols; ++x) {
            const auto i = static_cast<std::size_t>(x);
            const auto byte = [](float v) { return cv::saturate_cast<std::uint8_t>(255 * v); };
            mat.at<cv::Vec3b>(y, x) = {byte(picture.blue.row(y)[i]), byte(picture.green.row(y)[i]),
                                       byte(picture.red.row(y)[i])};
        }
    }
    return mat;
}

Baseline nonLocalMeans(const image::EncodedPlanes& noisy, double h) {
    const cv::Mat in = matOf(noisy);
    cv::Mat out;
    cv::setNumThreads(1);
    const auto from = std::chrono::steady_clock::now();
    cv::fastNlMeansDenoisingColored(in, out, static_cast<float>(h), static_cast<float>(h), 5, 15);
    const double ms = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - from).count();
    image::EncodedPlanes picture(noisy.size());
    for (int y = 0; y < out.rows; ++y) {
        for (int x = 0; x < out.cols; ++x) {
            const auto i = static_cast<std::size_t>(x);
            const cv::Vec3b& p = out.at<cv::Vec3b>(y, x);
            picture.blue.row(y)[i] = static_cast<float>(p[0]) / 255;
            picture.green.row(y)[i] = static_cast<float>(p[1]) / 255;
            picture.red.row(y)[i] = static_cast<float>(p[2]) / 255;
        }
    }
    return {std::move(picture), ms};
}

// The best of some strengths, by PSNR.
Baseline bestNonLocalMeans(const image::EncodedPlanes& noisy, const image::EncodedPlanes& clean, double sigma) {
    Baseline best;
    double psnr = 0;
    for (const double part : {0.5, 0.75, 1.0, 1.4}) {
        Baseline next = nonLocalMeans(noisy, part * sigma);
        const double now = differenceOf(next.picture, clean).psnr;
        if (now > psnr) {
            psnr = now;
            best = std::move(next);
        }
    }
    return best;
}

void compare(const std::string& name, double sigma, const image::EncodedPlanes& noisyPicture,
             const image::EncodedPlanes& clean) {
    const auto photo = photoOf(noisyPicture);
    const image::EncodedPlanes noisy = pictureOf(*photo);
    const Corrected ours = corrected(photo, removing);
    const Baseline theirs = bestNonLocalMeans(noisy, clean, sigma);
    const Difference before = differenceOf(noisy, clean), after = differenceOf(ours.picture, clean),
                     beside = differenceOf(theirs.picture, clean);
    const double size = megapixels(clean.size());
    std::printf("%-16s %5.1f  %5.1f %5.2f   %5.1f %5.2f   %5.1f %5.2f   %6.0f %6.0f %7.0f  %5.3f\n", name.c_str(),
                sigma, before.psnr, before.deltaE, after.psnr, after.deltaE, beside.psnr, beside.deltaE,
                ours.measuringMs / size, ours.renderingMs / size, theirs.ms / size, ours.renderingMs / theirs.ms);
    std::fflush(stdout);
}

}  // namespace

void noiseOutcomes(const std::string& demo) {
    std::printf(
        "\nNoise: PSNR and mean CIEDE2000 before, corrected, and by OpenCV's non-local means; ms a megapixel\n");
    std::printf("%-16s %5s  %11s   %11s   %11s   %6s %6s %7s  %5s\n", "picture", "sigma", "before", "corrected",
                "OpenCV", "measure", "render", "OpenCV", "ratio");
    for (const std::string name : {"figurehead", "chart-table", "harmonium", "bay-gradient"}) {
        const image::EncodedPlanes clean = readPicture(demo + "/truth/" + name + "-clean.jpg");
        for (const double sigma : {5.0, 10.0, 20.0})
            compare(name, sigma,
                    withNoise(
                        clean, [=](double) { return sigma; }, 7),
                    clean);
    }
    const image::EncodedPlanes dusk = readPicture(demo + "/tower-dusk.jpg"),
                               clean = readPicture(demo + "/truth/tower-dusk-clean.jpg");
    compare("tower-dusk as is", 4, dusk, clean);
}

}  // namespace dimhem::surroundings
