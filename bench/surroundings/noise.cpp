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

cv::Mat lumaOf(const image::EncodedPlanes& picture) {
    cv::Mat luma(picture.size().height, picture.size().width, CV_32F);
    for (int y = 0; y < luma.rows; ++y) {
        for (int x = 0; x < luma.cols; ++x) {
            const auto i = static_cast<std::size_t>(x);
            luma.at<float>(y, x) = 255 * (0.2126f * picture.red.row(y)[i] + 0.7152f * picture.green.row(y)[i] +
                                          0.0722f * picture.blue.row(y)[i]);
        }
    }
    return luma;
}

// Wang, Bovik, Sheikh and Simoncelli, "Image quality assessment: from error visibility to structural similarity", 2004:
// a Gaussian window of sigma 1.5, K1 0.01, K2 0.03, on luma; the mean over the picture.
double structuralSimilarity(const image::EncodedPlanes& a, const image::EncodedPlanes& b) {
    const auto blurred = [](const cv::Mat& of) {
        cv::Mat out;
        cv::GaussianBlur(of, out, {11, 11}, 1.5);
        return out;
    };
    const cv::Mat x = lumaOf(a), y = lumaOf(b), mx = blurred(x), my = blurred(y);
    const cv::Mat xx = blurred(x.mul(x)) - mx.mul(mx), yy = blurred(y.mul(y)) - my.mul(my),
                  xy = blurred(x.mul(y)) - mx.mul(my);
    constexpr double c1 = 0.01 * 255 * 0.01 * 255, c2 = 0.03 * 255 * 0.03 * 255;
    cv::Mat similarity;
    cv::divide((2 * mx.mul(my) + c1).mul(2 * xy + c2), (mx.mul(mx) + my.mul(my) + c1).mul(xx + yy + c2), similarity);
    return cv::mean(similarity)[0];
}

// The median distance over which the luma of rows goes from 10 to 90 % across an upright edge that is looked for
// within 20 pixels of a line.
double edgeWidth(const image::EncodedPlanes& picture, base::Point top, base::Point bottom) {
    const cv::Mat luma = lumaOf(picture);
    std::vector<double> widths;
    constexpr int reach = 20;
    for (int y = static_cast<int>(top.y); y < static_cast<int>(bottom.y); ++y) {
        const int x0 = static_cast<int>(top.x + (bottom.x - top.x) * (y - top.y) / (bottom.y - top.y)) - reach;
        // Five rows together, so that noise does not decide.
        std::vector<double> profile(2 * reach + 1, 0.0);
        for (int i = 0; i <= 2 * reach; ++i) {
            for (int k = -2; k <= 2; ++k)
                profile[static_cast<std::size_t>(i)] += double{luma.at<float>(y + k, x0 + i)} / 5;
        }
        const auto level = [&](std::size_t from) {
            double sum = 0;
            for (std::size_t i = 0; i < 8; ++i) sum += profile[from + i] / 8;
            return sum;
        };
        const double left = level(0), right = level(profile.size() - 8);
        if (std::abs(right - left) < 20) continue;
        const auto crossing = [&](double part) {
            for (std::size_t i = 8; i + 8 < profile.size(); ++i) {
                const double a = (profile[i] - left) / (right - left), b = (profile[i + 1] - left) / (right - left);
                if (a < part && b >= part) return static_cast<double>(i) + (part - a) / (b - a);
            }
            return -1.0;
        };
        const double from = crossing(0.1), to = crossing(0.9);
        if (from >= 0 && to > from) widths.push_back(to - from);
    }
    if (widths.empty()) return 0;
    std::nth_element(widths.begin(), widths.begin() + static_cast<std::ptrdiff_t>(widths.size() / 2), widths.end());
    return widths[widths.size() / 2];
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
    std::printf("%-16s %5.1f  %5.1f %5.2f   %5.1f %5.2f %5.3f   %5.1f %5.2f %5.3f   %6.0f %6.0f %7.0f  %5.3f\n",
                name.c_str(), sigma, before.psnr, before.deltaE, after.psnr, after.deltaE,
                structuralSimilarity(ours.picture, clean), beside.psnr, beside.deltaE,
                structuralSimilarity(theirs.picture, clean), ours.measuringMs / size, ours.renderingMs / size,
                theirs.ms / size, ours.renderingMs / theirs.ms);
    std::fflush(stdout);
}

}  // namespace

void noiseOutcomes(const std::string& demo) {
    std::printf(
        "\nNoise: PSNR, mean CIEDE2000 and SSIM before, corrected, and by OpenCV's non-local means; ms a megapixel\n");
    std::printf("%-16s %5s  %11s   %17s   %17s   %6s %6s %7s  %5s\n", "picture", "sigma", "before", "corrected",
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
    const base::Point top{1214, 640}, bottom{1175, 1380};
    const auto photo = photoOf(dusk);
    std::printf("the tower's left edge, 10 to 90 %%: clean %.2f px, noisy %.2f, corrected %.2f\n",
                edgeWidth(clean, top, bottom), edgeWidth(dusk, top, bottom),
                edgeWidth(corrected(photo, removing).picture, top, bottom));
}

}  // namespace dimhem::surroundings
