// How far a mask is from the subject's matte. P is what a plain brush would have laid (1 for whole masks), T = P *
// matte.
#pragma once

#include <functional>
#include <vector>

#include "core/image/plane.h"

namespace dimhem::edges {

struct Error {
    double spillPct = 0;  // sum of max(0, M - T) / sum of T
    double shortPct = 0;  // sum of max(0, T - M) / sum of T
    double band = 0;      // mean of |M - T| within 6 px of a partly covered pixel, where P > 0.3
    double iou = 0;       // of M > 0.5 and T > 0.5
};

// A null P is 1 everywhere.
Error errorOf(const image::Plane<float>& mask, const image::Plane<float>& matte, const image::Plane<float>* plain);

double secondsOf(const std::function<void()>& work);

double median(std::vector<double> values);
double mean(const std::vector<double>& values);

}  // namespace dimhem::edges
