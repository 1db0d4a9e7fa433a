#include "bench/edges/detail_scenes.h"

#include <cmath>
#include <filesystem>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <stdexcept>

#include "core/colour/srgb.h"

namespace dimhem::edges {

namespace {

constexpr int side = Detailed::side, fine = 4;  // each pixel drawn four times as fine

double between(std::mt19937& random, double low, double high) {
    return low + (high - low) * (random() / 4294967296.0);
}

cv::Point at(double x, double y) {
    return {static_cast<int>(x * fine), static_cast<int>(y * fine)};
}

void drawFur(cv::Mat& canvas, std::mt19937& random) {
    cv::circle(canvas, at(side / 2, side / 2), 150 * fine, 255, -1);
    for (int i = 0; i < 900; ++i) {
        const double a = between(random, 0, 6.283), b = a + between(random, -0.15, 0.15), r = 145,
                     end = r + between(random, 15, 45);
        cv::line(canvas, at(side / 2 + r * std::cos(a), side / 2 + r * std::sin(a)),
                 at(side / 2 + end * std::cos(b), side / 2 + end * std::sin(b)), 255,
                 static_cast<int>(between(random, 2, 7)), cv::LINE_AA);
    }
}

// Barbs of a vane, close together and all one way, and the gaps where they part.
void drawFeathers(cv::Mat& canvas, std::mt19937& random) {
    for (int i = 0; i < 9; ++i) {
        const double a = between(random, 0, 6.283), x0 = side / 2 + 20 * std::cos(a), y0 = side / 2 + 20 * std::sin(a),
                     length = between(random, 170, 250), broad = between(random, 26, 44);
        cv::line(canvas, at(x0, y0), at(x0 + length * std::cos(a), y0 + length * std::sin(a)), 255, 3 * fine,
                 cv::LINE_AA);
        double parted = 0;
        for (double way = 12; way < length; way += 1.1) {
            if (between(random, 0, 1) < 0.03) parted = between(random, 2, 6);
            if ((parted -= 1.1) > 0) continue;
            const double x = x0 + way * std::cos(a), y = y0 + way * std::sin(a),
                         reach = broad * std::sqrt(std::sin(3.1 * way / length)) * between(random, 0.9, 1.1);
            for (const double turn : {0.6, -0.6})
                cv::line(canvas, at(x, y), at(x + reach * std::cos(a + turn), y + reach * std::sin(a + turn)), 255,
                         static_cast<int>(between(random, 3, 6)), cv::LINE_AA);
        }
    }
    cv::circle(canvas, at(side / 2, side / 2), 60 * fine, 255, -1);
}

void drawLeaves(cv::Mat& canvas, std::mt19937& random) {
    cv::circle(canvas, at(side / 2, side / 2), 60 * fine, 255, -1);
    for (int i = 0; i < 420; ++i) {
        const double a = between(random, 0, 6.283), r = 210 * std::sqrt(between(random, 0, 1));
        cv::ellipse(
            canvas, at(side / 2 + r * std::cos(a), side / 2 + r * std::sin(a)),
            cv::Size(static_cast<int>(between(random, 8, 18) * fine), static_cast<int>(between(random, 4, 8) * fine)),
            between(random, 0, 180), 0, 360, 255, -1, cv::LINE_AA);
    }
}

void drawGrass(cv::Mat& canvas, std::mt19937& random) {
    cv::rectangle(canvas, cv::Rect(0, 440 * fine, side * fine, 200 * fine), 255, -1);
    for (int i = 0; i < 500; ++i) {
        const double x = between(random, 0, side), lean = between(random, -30, 30);
        cv::line(canvas, at(x, 450), at(x + lean, 440 - between(random, 20, 110)), 255,
                 static_cast<int>(between(random, 4, 12)), cv::LINE_AA);
    }
}

void drawWires(cv::Mat& canvas, std::mt19937& random) {
    cv::rectangle(canvas, cv::Rect(0, 480 * fine, side * fine, 160 * fine), 255, -1);
    for (int i = 0; i < 14; ++i)
        cv::line(canvas, at(between(random, 0, side), 485), at(between(random, 0, side), between(random, 20, 150)), 255,
                 static_cast<int>(between(random, 3, 9)), cv::LINE_AA);
}

void drawNet(cv::Mat& canvas, std::mt19937& random) {
    cv::rectangle(canvas, cv::Rect(0, 0, 120 * fine, side * fine), 255, -1);
    for (int i = -20; i < 40; ++i) {
        const int width = static_cast<int>(between(random, 5, 9));
        cv::line(canvas, at(110, 24.0 * i), at(460, 24.0 * i + 350), 255, width, cv::LINE_AA);
        cv::line(canvas, at(110, 24.0 * i), at(460, 24.0 * i - 350), 255, width, cv::LINE_AA);
    }
}

void drawSoft(cv::Mat& canvas, std::mt19937&) {
    cv::circle(canvas, at(side / 2, side / 2), 170 * fine, 255, -1);
    cv::GaussianBlur(canvas, canvas, cv::Size(), 14 * fine);
}

// Linear light; a piece of a photo halved.
cv::Mat ground(const std::string& file) {
    cv::Mat picture = cv::imread(file);
    if (picture.empty()) throw std::runtime_error("Cannot read " + file);
    const cv::Rect piece((picture.cols - std::min(picture.cols, 2 * side)) / 2,
                         (picture.rows - std::min(picture.rows, 2 * side)) / 2, std::min(picture.cols, 2 * side),
                         std::min(picture.rows, 2 * side));
    cv::resize(picture(piece).clone(), picture, cv::Size(side, side), 0, 0, cv::INTER_AREA);
    cv::Mat out(side, side, CV_32FC3);
    for (int y = 0; y < side; ++y) {
        for (int x = 0; x < side; ++x) {
            for (int c = 0; c < 3; ++c)
                out.at<cv::Vec3f>(y, x)[c] =
                    static_cast<float>(colour::linearFromEncoded(picture.at<cv::Vec3b>(y, x)[c] / 255.0));
        }
    }
    return out;
}

image::Plane<float> planeOf(const cv::Mat& bytes) {
    return image::planeOf({side, side}, [&](int x, int y) { return static_cast<float>(bytes.at<uchar>(y, x)) / 255; });
}

image::Plane<std::uint8_t> flagsOf(const cv::Mat& bytes) {
    image::Plane<std::uint8_t> out({side, side});
    for (int y = 0; y < side; ++y) {
        for (int x = 0; x < side; ++x) out.view().at(x, y) = bytes.at<uchar>(y, x) ? 1 : 0;
    }
    return out;
}

cv::Mat grown(const cv::Mat& mask, int by) {
    cv::Mat out;
    cv::dilate(mask, out, cv::getStructuringElement(cv::MORPH_ELLIPSE, cv::Size(2 * by + 1, 2 * by + 1)));
    return out;
}

// Its middle, mirrored over and over: the same stuff everywhere, as leaves are.
cv::Mat evenStuff(const cv::Mat& surface) {
    constexpr int patch = 160;
    const cv::Mat middle = surface(cv::Rect((side - patch) / 2, (side - patch) / 2, patch, patch));
    cv::Mat out;
    cv::copyMakeBorder(middle, out, (side - patch) / 2, (side - patch) / 2, (side - patch) / 2, (side - patch) / 2,
                       cv::BORDER_REFLECT | cv::BORDER_ISOLATED);
    return out;
}

// What is left of a photo far out of focus: a sky.
cv::Mat calm(const cv::Mat& behind) {
    cv::Mat out;
    cv::GaussianBlur(behind, out, cv::Size(), 60);
    return out;
}

}  // namespace

std::vector<DetailKind> detailKinds() {
    return {{"fur", drawFur, .07},
            {"feathers", drawFeathers, .08},
            {"leaves", drawLeaves, .06},
            {"even leaves", drawLeaves, .06, evenStuff},
            {"leaves, sky", drawLeaves, .06, evenStuff, calm},
            {"grass", drawGrass, .09},
            {"wires", drawWires, .05},
            {"net", drawNet, .13},
            {"soft", drawSoft, .10}};
}

std::vector<cv::Mat> detailGrounds(const std::string& demo) {
    std::vector<cv::Mat> grounds;
    const std::string photos = "/usr/share/backgrounds/mate/nature/";
    for (const std::string name : {"Wood", "Dune", "Garden", "Aqua", "Storm", "GreenMeadow"}) {
        if (std::filesystem::exists(photos + name + ".jpg")) grounds.push_back(ground(photos + name + ".jpg"));
    }
    for (const std::string name : {"headlands", "harmonium", "bay-gradient"})
        grounds.push_back(ground(demo + "/" + name + ".jpg"));
    return grounds;
}

Detailed detailed(const DetailKind& kind, const cv::Mat& stuff, const cv::Mat& ground, double noise,
                  std::uint32_t seed) {
    const cv::Mat thing = kind.stuff ? kind.stuff(stuff) : stuff, behind = kind.behind ? kind.behind(ground) : ground;
    std::mt19937 random(seed);
    cv::Mat canvas(side * fine, side * fine, CV_8U, cv::Scalar(0)), matte;
    kind.draw(canvas, random);
    cv::resize(canvas, matte, cv::Size(side, side), 0, 0, cv::INTER_AREA);
    Detailed out{image::LinearPlanes({side, side}), planeOf(matte), {}, {}, {}};
    std::normal_distribution<double> grain(0, noise > 0 ? noise / 255 : 1);
    for (int y = 0; y < side; ++y) {
        for (int x = 0; x < side; ++x) {
            const double m = double{out.matte.view().at(x, y)};
            float* to[3] = {&out.picture.blue.view().at(x, y), &out.picture.green.view().at(x, y),
                            &out.picture.red.view().at(x, y)};
            for (int c = 0; c < 3; ++c) {
                const double light =
                    m * double{thing.at<cv::Vec3f>(y, x)[c]} + (1 - m) * double{behind.at<cv::Vec3f>(y, x)[c]};
                const double v = colour::encodedFromLinear(light) + (noise > 0 ? grain(random) : 0);
                *to[c] = static_cast<float>(colour::linearFromEncoded(std::round(255 * std::clamp(v, 0.0, 1.0)) / 255));
            }
        }
    }
    // The hull: holes and gaps closed, thin things lost. The zone: whatever is partly covered, grown by a hasty
    // hand.
    const cv::Mat half = matte > 127, partly = (matte > 5) & (matte < 250);
    cv::Mat hull;
    cv::morphologyEx(half, hull, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_ELLIPSE, cv::Size(13, 13)));
    cv::morphologyEx(hull, hull, cv::MORPH_CLOSE, cv::getStructuringElement(cv::MORPH_ELLIPSE, cv::Size(41, 41)));
    cv::Mat blobs(side, side, CV_8U, cv::Scalar(0));
    for (int i = 0; i < 400; ++i) {
        const int x = static_cast<int>(random() % side), y = static_cast<int>(random() % side);
        const cv::Rect about = cv::Rect(x - 20, y - 20, 40, 40) & cv::Rect(0, 0, side, side);
        if (cv::countNonZero(partly(about)) > 0)
            cv::circle(blobs, {x, y}, static_cast<int>(12 + random() % 22), 255, -1);
    }
    out.hull = planeOf(hull);
    out.zone = flagsOf(grown(partly, 16) | blobs);
    out.near = flagsOf(grown(partly, 10));
    return out;
}

}  // namespace dimhem::edges
