#include "core/kernel/dab_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/dab_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "core/kernel/coverage_rows.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

void DabRow(const DabShape& dab, int y, int x0, float* stroke, std::size_t count) {
    const hn::ScalableTag<float> d;
    const double core = dab.radius * (1 - dab.softness);
    const double passage = std::max(dab.radius - core, 1.0);
    // A passage widened to one pixel lies half inside and half outside the rim.
    const double start = dab.radius - core < 1.0 ? dab.radius - 0.5 : core;
    const float dy = static_cast<float>(y + 0.5 - dab.centreY);
    const auto dy2 = hn::Set(d, dy * dy);
    const auto dx0 = hn::Add(hn::Iota(d, 0.0f), hn::Set(d, static_cast<float>(x0 + 0.5 - dab.centreX)));
    const auto scale = hn::Set(d, static_cast<float>(1 / passage));
    const auto offset = hn::Set(d, static_cast<float>(-start / passage));
    const auto zero = hn::Zero(d), one = hn::Set(d, 1.0f);
    const auto ceiling = hn::Set(d, static_cast<float>(dab.ceiling));
    const auto build = hn::Set(d, static_cast<float>(dab.build));
    TransformRow(d, stroke, count, [&](std::size_t i, auto s) HWY_ATTR {
        const auto dx = hn::Add(dx0, hn::Set(d, static_cast<float>(i)));
        const auto distance = hn::Sqrt(hn::MulAdd(dx, dx, dy2));
        const auto t = hn::Min(hn::Max(hn::MulAdd(distance, scale, offset), zero), one);
        const auto fall = hn::Mul(hn::Mul(t, t), hn::NegMulAdd(hn::Set(d, 2.0f), t, hn::Set(d, 3.0f)));
        const auto p = hn::Mul(hn::Sub(one, fall), ceiling);
        return hn::Max(s, hn::Min(p, hn::MulAdd(build, p, s)));
    });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(DabRow);

DabSpan dabSpan(const DabShape& dab, int y) {
    const double reach = dab.radius + 0.5;
    const double dy = y + 0.5 - dab.centreY;
    const double half2 = reach * reach - dy * dy;
    if (half2 <= 0) return {0, 0};
    const double half = std::sqrt(half2);
    return {static_cast<int>(std::floor(dab.centreX - half)), static_cast<int>(std::ceil(dab.centreX + half))};
}

void dabRow(const DabShape& dab, int y, int x0, float* stroke, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(DabRow)(dab, y, x0, stroke, count);
}

void layRow(const float* stroke, float strength, bool removes, std::uint16_t* coverage, std::size_t count) {
    const float scale = strength * fullCoverage;
    for (std::size_t i = 0; i < count; ++i) {
        const auto laid = static_cast<std::uint32_t>(stroke[i] * scale + 0.5f);
        coverage[i] = removes ? coverageSubtract(coverage[i], laid) : coverageAdd(coverage[i], laid);
    }
}

void layHeldRow(const std::uint16_t* laid, const std::uint16_t* held, bool removes, std::uint16_t* coverage,
                std::size_t count) {
    for (std::size_t i = 0; i < count; ++i) {
        const std::uint32_t goal = removes ? fullCoverage - held[i] : held[i];
        std::uint16_t& c = coverage[i];
        if (removes && c > goal) c = static_cast<std::uint16_t>(c - coverageProduct(laid[i], c - goal));
        if (!removes && c < goal) c = static_cast<std::uint16_t>(c + coverageProduct(laid[i], goal - c));
    }
}

}  // namespace dimhem::kernel
#endif
