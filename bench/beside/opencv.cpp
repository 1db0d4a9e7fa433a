#include <opencv2/core.hpp>

#include "bench/beside/work.h"

namespace dimhem::bench {

namespace {

// Memory that is used again for each step: what it costs to get fresh pages is left out.
struct Scratch {
    cv::Mat linear, low, corrected;
    cv::Mat1b isLow;
    std::vector<cv::Mat> channels;
};

void isBelow(const cv::Mat& picture, double limit, Scratch& s) {
    cv::inRange(picture.reshape(1), -1e9, limit, s.isLow);
}

void decode(const cv::Mat& picture, Scratch& s) {
    picture.convertTo(s.low, CV_32F, 1 / 12.92);
    picture.convertTo(s.linear, CV_32F, 1 / 1.055, 0.055 / 1.055);
    cv::pow(s.linear, 2.4, s.linear);
    isBelow(picture, 0.04045, s);
    s.low.reshape(1).copyTo(s.linear.reshape(1), s.isLow);
}

void encode(Scratch& s) {
    s.linear.convertTo(s.low, CV_32F, 12.92);
    isBelow(s.linear, 0.0031308, s);
    cv::pow(s.linear, 1 / 2.4, s.corrected);
    s.corrected.convertTo(s.corrected, CV_32F, 1.055, -0.055);
    s.low.reshape(1).copyTo(s.corrected.reshape(1), s.isLow);
}

}  // namespace

std::vector<float> withOpenCv(const Work& work) {
    const int rows = work.size.height, columns = work.size.width;
    static Scratch s;
    cv::Mat picture, coverage, coverage3;
    cv::Mat(rows, columns, CV_8UC3, const_cast<std::uint8_t*>(work.rgb)).convertTo(picture, CV_32F, 1.0 / 255);
    cv::Mat(rows, columns, CV_16U, const_cast<std::uint16_t*>(work.coverage.data()))
        .convertTo(coverage, CV_32F, 1.0 / 65535);
    cv::merge(std::vector<cv::Mat>{coverage, coverage, coverage}, coverage3);
    for (const auto& step : work.steps) {
        decode(picture, s);
        cv::transform(s.linear, s.linear, cv::Mat(3, 3, CV_64F, const_cast<double*>(step.data())));
        encode(s);
        cv::subtract(s.corrected, picture, s.corrected);
        cv::multiply(s.corrected, coverage3, s.corrected);
        cv::add(picture, s.corrected, picture);
    }
    const auto* values = picture.ptr<float>();
    return {values, values + picture.total() * 3};
}

}  // namespace dimhem::bench
