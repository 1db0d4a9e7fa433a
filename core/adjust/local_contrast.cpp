#include "core/adjust/local_contrast.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/local_contrast.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>

#include "core/adjust/pixel-inl.h"
#include "core/image/tiles.h"
#include "core/kernel/box_sum.h"
#include "core/kernel/lab_rows.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

// Away from the two bases, or towards them; `lines` give each from L, its slope and its offset.
void LocalContrastRow(float amount, const float* const* lines, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto k = [&](float v) HWY_ATTR { return hn::Set(d, v); };
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto y = hn::Max(Luminance(d, r, g, b), k(1e-6f));
            const auto l = hn::MulAdd(k(1.16f), LabCurve(d, y), k(-0.16f));
            const auto awayFrom = [&](int base) HWY_ATTR {
                const auto slope = kernel::HWY_NAMESPACE::LoadSome(d, lines[2 * base], i, count);
                const auto offset = kernel::HWY_NAMESPACE::LoadSome(d, lines[2 * base + 1], i, count);
                return hn::Sub(l, hn::MulAdd(slope, l, offset));
            };
            const auto to = hn::MulAdd(k(amount), hn::Add(awayFrom(0), awayFrom(1)), l);
            const auto made = LabCurveInverse(d, hn::MulAdd(to, k(1 / 1.16f), k(0.16f / 1.16f)));
            const auto gain = hn::Min(hn::Max(hn::Div(made, y), k(0.25f)), k(4.0f));
            r = hn::Mul(r, gain);
            g = hn::Mul(g, gain);
            b = hn::Mul(b, gain);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(LocalContrastRow);

namespace {

using image::Plane;

constexpr double mostRadius = 16, flat = 0.003;  // pixels of the model's level; the variance that counts as flat

Plane<float> lightnessOf(const image::EncodedPlanes& picture) {
    Plane<float> out(picture.size());
    for (int y = 0; y < out.size().height; ++y) {
        const auto row = out.row(y);
        kernel::lightnessRow(kernel::rowOf(picture, y), row.data(), row.size());
        for (float& l : row) l /= 100;
    }
    return out;
}

// The guided filter up to its last step, by itself. `l` is larger than the lines by twice `margin`.
void makeLines(const Plane<float>& l, int radius, int margin, std::span<Plane<float>> lines) {
    const Plane<float> mean = kernel::boxMean(l, radius);
    const Plane<float> square = kernel::boxMean(image::planeOf(l.size(),
                                                               [&](int x, int y) {
                                                                   const float v =
                                                                       l.row(y)[static_cast<std::size_t>(x)];
                                                                   return v * v;
                                                               }),
                                                radius);
    Plane<float> slope(l.size()), offset(l.size());
    for (int y = 0; y < l.size().height; ++y) {
        const float *m = mean.row(y).data(), *s = square.row(y).data();
        float *a = slope.row(y).data(), *b = offset.row(y).data();
        for (int x = 0; x < l.size().width; ++x) {
            const float variance = std::max(0.0f, s[x] - m[x] * m[x]), squared = variance * variance;
            a[x] = squared / (squared + static_cast<float>(flat * flat));
            b[x] = (1 - a[x]) * m[x];
        }
    }
    const base::Size size = lines[0].size();
    const base::Rect own{2 * margin, 2 * margin, 2 * margin + size.width, 2 * margin + size.height};
    lines[0] = image::cropped(kernel::boxMean(slope, radius), own);
    lines[1] = image::cropped(kernel::boxMean(offset, radius), own);
}

}  // namespace

int LocalContrast::modelLevel(int level) const {
    return std::max(level, image::levelOfLength(radiusPx_, mostRadius));
}

int LocalContrast::radiusOn(int level) const {
    return std::max(1, static_cast<int>(std::lround(radiusPx_ / (1 << level))));
}

void LocalContrast::makeModel(image::EncodedPlanes around, const Area& area, std::span<const Plane<float>>,
                              std::span<Plane<float>> model) const {
    const int by = radiusOn(area.level), near = std::max(1, (by + 2) / 4);
    const Plane<float> l = lightnessOf(around);
    makeLines(l, by, by, model.first(2));
    makeLines(l, near, by, model.last(2));
}

void LocalContrast::row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const {
    HWY_DYNAMIC_DISPATCH(LocalContrastRow)(amount_, model.data(), pixels.linear(), pixels.count());
}

}  // namespace dimhem::adjust
#endif
