#include "core/kernel/gaussian.h"

#include <algorithm>
#include <cmath>
#include <span>
#include <vector>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/gaussian.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

// out = w[0] middle + sum of w[k] (before(k) + after(k)): rows that lie k to one and to the other side.
template <class Before, class After>
HWY_INLINE void WeighedSum(const float* middle, Before before, After after, std::span<const float> w, float* out,
                           std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRow(d, out, count, [&](std::size_t i, auto) HWY_ATTR {
        auto sum = hn::Mul(hn::Set(d, w[0]), LoadSome(d, middle, i, count));
        for (std::size_t k = 1; k < w.size(); ++k) {
            const auto both = hn::Add(LoadSome(d, before(k), i, count), LoadSome(d, after(k), i, count));
            sum = hn::MulAdd(hn::Set(d, w[k]), both, sum);
        }
        return sum;
    });
}

// `in` has as many values more on both sides as there are weights beside the first.
void AlongRow(const float* in, std::span<const float> w, float* out, std::size_t count) {
    WeighedSum(
        in, [in](std::size_t k) { return in - k; }, [in](std::size_t k) { return in + k; }, w, out, count);
}

// `rows`: those that lie w.size() - 1 above to as many below.
void AcrossRows(const float* const* rows, std::span<const float> w, float* out, std::size_t count) {
    const float* const* middle = rows + (w.size() - 1);
    WeighedSum(
        *middle, [middle](std::size_t k) { return *(middle - k); }, [middle](std::size_t k) { return middle[k]; }, w,
        out, count);
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(AlongRow);
HWY_EXPORT(AcrossRows);

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

void blurRows(image::Plane<float>& plane, const std::vector<float>& w) {
    const auto reach = w.size() - 1;
    const auto width = static_cast<std::size_t>(plane.size().width);
    std::vector<float> padded(width + 2 * reach);
    for (int y = 0; y < plane.size().height; ++y) {
        float* row = plane.row(y).data();
        std::fill_n(padded.begin(), reach, row[0]);
        std::copy_n(row, width, padded.begin() + static_cast<std::ptrdiff_t>(reach));
        std::fill_n(padded.end() - static_cast<std::ptrdiff_t>(reach), reach, row[width - 1]);
        HWY_DYNAMIC_DISPATCH(AlongRow)(padded.data() + reach, w, row, width);
    }
}

void blurColumns(image::Plane<float>& plane, const std::vector<float>& w) {
    const int height = plane.size().height, reach = static_cast<int>(w.size()) - 1;
    const auto width = static_cast<std::size_t>(plane.size().width);
    image::Plane<float> out(plane.size());
    const auto rowAt = [&](int y) { return plane.row(std::clamp(y, 0, height - 1)).data(); };
    std::vector<const float*> rows(2 * w.size() - 1);
    for (int y = 0; y < height; ++y) {
        for (int k = -reach; k <= reach; ++k) rows[static_cast<std::size_t>(k + reach)] = rowAt(y + k);
        HWY_DYNAMIC_DISPATCH(AcrossRows)(rows.data(), w, out.row(y).data(), width);
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
#endif
