#include "core/kernel/gaussian.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace dimhem::kernel {

namespace {

std::vector<float> weights(double sigma) {
    const int reach = gaussianReach(sigma);
    std::vector<float> half(static_cast<std::size_t>(reach) + 1);
    double sum = 0;
    for (int i = 0; i <= reach; ++i) {
        const double w = std::exp(-i * i / (2 * sigma * sigma));
        half[static_cast<std::size_t>(i)] = static_cast<float>(w);
        sum += i == 0 ? w : 2 * w;
    }
    for (float& w : half) w = static_cast<float>(w / sum);
    return half;
}

// out[x] = sum of w[k] * in[x + k], where `in` has `reach` values more on both sides.
void convolve(const float* in, const std::vector<float>& w, float* out, std::size_t count) {
    const auto reach = static_cast<std::ptrdiff_t>(w.size()) - 1;
    for (std::size_t x = 0; x < count; ++x) out[x] = w[0] * in[x];
    for (std::ptrdiff_t k = 1; k <= reach; ++k) {
        const float weight = w[static_cast<std::size_t>(k)];
        const float *left = in - k, *right = in + k;
        for (std::size_t x = 0; x < count; ++x) out[x] += weight * (left[x] + right[x]);
    }
}

void blurRows(image::Plane<float>& plane, const std::vector<float>& w) {
    const auto reach = w.size() - 1;
    const auto width = static_cast<std::size_t>(plane.size().width);
    std::vector<float> padded(width + 2 * reach);
    for (int y = 0; y < plane.size().height; ++y) {
        float* row = plane.row(y).data();
        std::fill_n(padded.begin(), reach, row[0]);
        std::copy_n(row, width, padded.begin() + static_cast<std::ptrdiff_t>(reach));
        std::fill_n(padded.end() - static_cast<std::ptrdiff_t>(reach), reach, row[width - 1]);
        convolve(padded.data() + reach, w, row, width);
    }
}

void blurColumns(image::Plane<float>& plane, const std::vector<float>& w) {
    const int height = plane.size().height, reach = static_cast<int>(w.size()) - 1;
    const auto width = static_cast<std::size_t>(plane.size().width);
    image::Plane<float> out(plane.size());
    const auto rowAt = [&](int y) { return plane.row(std::clamp(y, 0, height - 1)).data(); };
    for (int y = 0; y < height; ++y) {
        float* to = out.row(y).data();
        const float* middle = rowAt(y);
        for (std::size_t x = 0; x < width; ++x) to[x] = w[0] * middle[x];
        for (int k = 1; k <= reach; ++k) {
            const float weight = w[static_cast<std::size_t>(k)];
            const float *above = rowAt(y - k), *below = rowAt(y + k);
            for (std::size_t x = 0; x < width; ++x) to[x] += weight * (above[x] + below[x]);
        }
    }
    plane = std::move(out);
}

}  // namespace

int gaussianReach(double sigma) {
    return static_cast<int>(std::ceil(3 * sigma));
}

void gaussianBlur(image::Plane<float>& plane, double sigma) {
    if (sigma < 0.05) return;
    const std::vector<float> w = weights(sigma);
    blurRows(plane, w);
    blurColumns(plane, w);
}

}  // namespace dimhem::kernel
