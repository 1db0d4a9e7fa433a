// Things of fine detail, drawn with seeds, over photos: fur, feathers, leaves, grass, wires, a net and a soft edge,
// with their mattes, the hull a hasty mask would be, and where a hasty hand would paint.
#pragma once

#include <functional>
#include <opencv2/core.hpp>
#include <random>
#include <string>
#include <vector>

#include "core/image/plane.h"

namespace dimhem::edges {

struct Detailed {
    static constexpr int side = 640;  // pixels
    image::LinearPlanes picture;
    image::Plane<float> matte, hull;        // the hull: holes and gaps closed, thin things lost
    image::Plane<std::uint8_t> zone, near;  // what is partly covered, grown by a hasty hand; within 10 px of it
};

struct DetailKind {
    const char* name;
    std::function<void(cv::Mat&, std::mt19937&)> draw;
    double target;                                // mean |M - T| near the edge
    cv::Mat (*stuff)(const cv::Mat&) = nullptr;   // what is made of the thing's photo; null: the photo
    cv::Mat (*behind)(const cv::Mat&) = nullptr;  // and of the one behind it
};

std::vector<DetailKind> detailKinds();

// Pieces of photos, in linear light: those of Debian's mate-backgrounds where they are installed, and the demo's.
std::vector<cv::Mat> detailGrounds(const std::string& demo);

// `noise`: standard deviation, of 255.
Detailed detailed(const DetailKind& kind, const cv::Mat& thing, const cv::Mat& behind, double noise,
                  std::uint32_t seed);

}  // namespace dimhem::edges
