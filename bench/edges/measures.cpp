#include "bench/edges/measures.h"

#include <algorithm>
#include <chrono>
#include <cmath>

#include "core/kernel/box_sum.h"

namespace dimhem::edges {

Error errorOf(const image::Plane<float>& mask, const image::Plane<float>& matte, const image::Plane<float>* plain) {
    const base::Size size = matte.size();
    image::Plane<float> partial(size);
    for (int y = 0; y < size.height; ++y)
        std::transform(matte.row(y).begin(), matte.row(y).end(), partial.row(y).begin(),
                       [](float a) { return a > 0.02f && a < 0.98f ? 1.0f : 0.0f; });
    const image::Plane<float> near = kernel::boxSum(partial, 6);
    double over = 0, under = 0, whole = 0, band = 0, bandCount = 0, both = 0, either = 0;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const double p = plain ? double{plain->row(y)[x]} : 1;
            const double m = double{mask.row(y)[x]}, t = p * double{matte.row(y)[x]};
            over += std::max(0.0, m - t);
            under += std::max(0.0, t - m);
            whole += t;
            both += m > 0.5 && t > 0.5 ? 1 : 0;
            either += m > 0.5 || t > 0.5 ? 1 : 0;
            if (near.row(y)[x] > 0.5f && p > 0.3) {
                band += std::abs(m - t);
                ++bandCount;
            }
        }
    }
    return {100 * over / whole, 100 * under / whole, bandCount > 0 ? band / bandCount : 0,
            both / std::max(1.0, either)};
}

double secondsOf(const std::function<void()>& work) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

double median(std::vector<double> values) {
    if (values.empty()) return 0;
    std::sort(values.begin(), values.end());
    const std::size_t n = values.size();
    return n % 2 ? values[n / 2] : (values[n / 2 - 1] + values[n / 2]) / 2;
}

double mean(const std::vector<double>& values) {
    double sum = 0;
    for (const double v : values) sum += v;
    return values.empty() ? 0 : sum / static_cast<double>(values.size());
}

}  // namespace dimhem::edges
