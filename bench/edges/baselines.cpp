#include "bench/edges/baselines.h"

#include <opencv2/imgproc.hpp>
#include <opencv2/ximgproc/edge_filter.hpp>

namespace dimhem::edges {

namespace {

cv::Mat bytesOf(const render::PhotoSource& photo) {
    image::EncodedPlanes planes(photo.size());
    photo.read(base::rectOf(photo.size()), 0, planes);
    cv::Mat out(photo.size().height, photo.size().width, CV_8UC3);
    for (int y = 0; y < out.rows; ++y) {
        for (int x = 0; x < out.cols; ++x) {
            const auto byte = [&](const image::Plane<float>& p) {
                return cv::saturate_cast<uchar>(p.row(y)[static_cast<std::size_t>(x)] * 255);
            };
            out.at<cv::Vec3b>(y, x) = {byte(planes.blue), byte(planes.green), byte(planes.red)};
        }
    }
    return out;
}

image::Plane<float> planeOf(const cv::Mat& mat) {
    image::Plane<float> out({mat.cols, mat.rows});
    for (int y = 0; y < mat.rows; ++y) {
        for (int x = 0; x < mat.cols; ++x)
            out.row(y)[static_cast<std::size_t>(x)] = std::clamp(mat.at<float>(y, x), 0.0f, 1.0f);
    }
    return out;
}

}  // namespace

image::Plane<float> guidedFilterAlone(const render::PhotoSource& photo, const image::Plane<float>& mask, int radius) {
    cv::Mat guide, input(mask.size().height, mask.size().width, CV_32F), output;
    bytesOf(photo).convertTo(guide, CV_32FC3);
    for (int y = 0; y < input.rows; ++y) std::copy(mask.row(y).begin(), mask.row(y).end(), input.ptr<float>(y));
    // With a guide of 0..255: its result is wrong for small eps with one of 0..1.
    cv::ximgproc::guidedFilter(guide, input, output, radius, 1e-4 * 255 * 255);
    return planeOf(output);
}

image::Plane<float> grabCutAlone(const render::PhotoSource& photo, const image::Plane<std::uint8_t>& trimap) {
    const cv::Mat picture = bytesOf(photo);
    cv::Mat mask(picture.size(), CV_8U), background, foreground;
    for (int y = 0; y < mask.rows; ++y) std::copy(trimap.row(y).begin(), trimap.row(y).end(), mask.ptr<uchar>(y));
    cv::setRNGSeed(1);
    cv::grabCut(picture, mask, {}, background, foreground, 5, cv::GC_INIT_WITH_MASK);
    cv::Mat inside;
    mask.convertTo(inside, CV_32F);
    for (int y = 0; y < mask.rows; ++y) {
        for (int x = 0; x < mask.cols; ++x) inside.at<float>(y, x) = mask.at<uchar>(y, x) & 1 ? 1.0f : 0.0f;
    }
    return planeOf(inside);
}

}  // namespace dimhem::edges
