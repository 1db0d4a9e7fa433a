#include "core/kernel/box_sum.h"

#include <algorithm>
#include <vector>

namespace dimhem::kernel {

namespace {

// Running sums in double, so that what was added is taken away again without a trace.
void sumRow(const float* in, float* out, int width, int radius) {
    double sum = 0;
    for (int x = 0; x < std::min(radius, width); ++x) sum += in[x];
    for (int x = 0; x < width; ++x) {
        if (x + radius < width) sum += in[x + radius];
        if (x - radius > 0) sum -= in[x - radius - 1];
        out[x] = static_cast<float>(sum);
    }
}

int within(int at, int radius, int length) {
    return std::min(at + radius, length - 1) - std::max(at - radius, 0) + 1;
}

}  // namespace

image::Plane<float> boxSum(const image::Plane<float>& values, int radius) {
    const int width = values.size().width, height = values.size().height;
    image::Plane<float> across(values.size()), out(values.size());
    for (int y = 0; y < height; ++y) sumRow(values.row(y).data(), across.row(y).data(), width, radius);
    std::vector<double> sums(static_cast<std::size_t>(width), 0.0);
    const auto add = [&](int y, double sign) {
        const float* row = across.row(y).data();
        for (std::size_t x = 0; x < sums.size(); ++x) sums[x] += sign * static_cast<double>(row[x]);
    };
    for (int y = 0; y < std::min(radius, height); ++y) add(y, 1);
    for (int y = 0; y < height; ++y) {
        if (y + radius < height) add(y + radius, 1);
        if (y - radius > 0) add(y - radius - 1, -1);
        float* to = out.row(y).data();
        for (std::size_t x = 0; x < sums.size(); ++x) to[x] = static_cast<float>(sums[x]);
    }
    return out;
}

image::Plane<float> boxMean(const image::Plane<float>& values, int radius) {
    image::Plane<float> out = boxSum(values, radius);
    const int width = values.size().width, height = values.size().height;
    std::vector<float> across(static_cast<std::size_t>(width));
    for (int x = 0; x < width; ++x)
        across[static_cast<std::size_t>(x)] = 1.0f / static_cast<float>(within(x, radius, width));
    for (int y = 0; y < height; ++y) {
        const float down = 1.0f / static_cast<float>(within(y, radius, height));
        float* row = out.row(y).data();
        for (std::size_t x = 0; x < across.size(); ++x) row[x] *= across[x] * down;
    }
    return out;
}

}  // namespace dimhem::kernel
