#include "core/adjust/sharpening.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/sharpening.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>

#include "core/adjust/luma_plane.h"
#include "core/kernel/extreme_filter.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

void SharpeningRow(float amount, const float* const* model, kernel::EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto at = [&](std::size_t plane)
                                HWY_ATTR { return kernel::HWY_NAMESPACE::LoadSome(d, model[plane], i, count); };
            const auto by = hn::Max(hn::Min(hn::Mul(hn::Set(d, amount), at(0)), at(1)), hn::Neg(at(2)));
            r = hn::Add(r, by);
            g = hn::Add(g, by);
            b = hn::Add(b, by);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(SharpeningRow);

namespace {

using image::Plane;

}  // namespace

double Sharpening::sigmaOn(int level) const {
    return settings_.radiusPx / (1 << level);
}

int Sharpening::windowOn(int level) const {
    return std::max(1, static_cast<int>(std::lround(sigmaOn(level))));
}

int Sharpening::reach(int modelLevel) const {
    return std::max(kernel::gaussianReach(sigmaOn(modelLevel)), windowOn(modelLevel));
}

void Sharpening::addModelKey(base::KeyBuilder& key) const {
    key.add("sharpening").add(settings_.radiusPx).add(settings_.threshold).add(settings_.halo);
}

void Sharpening::makeModel(image::EncodedPlanes around, const Area& area, std::span<const Plane<float>>,
                           std::span<Plane<float>> model) const {
    const int by = reach(area.level);
    const Plane<float> luma = lumaOf(around), least = kernel::leastAround(luma, windowOn(area.level)),
                       most = kernel::greatestAround(luma, windowOn(area.level));
    Plane<float> blurred = image::copied(luma);
    kernel::gaussianBlur(blurred, sigmaOn(area.level));
    const auto threshold = static_cast<float>(settings_.threshold / (1 << area.level));
    const auto halo = static_cast<float>(settings_.halo);
    for (int y = 0; y < model[0].size().height; ++y) {
        const auto row = [&](const Plane<float>& plane) { return plane.row(y + by).data() + by; };
        const float *now = row(luma), *soft = row(blurred), *low = row(least), *high = row(most);
        float *detail = model[0].row(y).data(), *up = model[1].row(y).data(), *down = model[2].row(y).data();
        for (int x = 0; x < model[0].size().width; ++x) {
            const float d = now[x] - soft[x], beyond = halo * (high[x] - low[x]);
            detail[x] = d - std::clamp(d, -threshold, threshold);
            up[x] = high[x] - now[x] + beyond;
            down[x] = now[x] - low[x] + beyond;
        }
    }
}

void Sharpening::row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const {
    const auto amount = static_cast<float>(settings_.amount);
    HWY_DYNAMIC_DISPATCH(SharpeningRow)(amount, model.data(), pixels.encoded(), pixels.count());
}

}  // namespace dimhem::adjust
#endif
