#include "core/kernel/mix_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/mix_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

void MixRow(EncodedRow picture, ConstEncodedRow corrected, const std::uint16_t* coverage, float strength,
            std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRgb(d, picture.red, picture.green, picture.blue, count,
                 [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
                     auto weight = hn::Set(d, strength);
                     if (coverage) weight = hn::Mul(LoadCoverage(d, coverage, i, count), weight);
                     const auto none = hn::Eq(weight, hn::Zero(d)), all = hn::Eq(weight, hn::Set(d, 1.0f));
                     const auto mix = [&](auto below, const float* above) HWY_ATTR {
                         const auto to = LoadSome(d, above, i, count);
                         const auto mixed = hn::MulAdd(hn::Sub(to, below), weight, below);
                         return hn::IfThenElse(none, below, hn::IfThenElse(all, to, mixed));
                     };
                     r = mix(r, corrected.red);
                     g = mix(g, corrected.green);
                     b = mix(b, corrected.blue);
                 });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(MixRow);

void mixRow(EncodedRow picture, ConstEncodedRow corrected, const std::uint16_t* coverage, float strength,
            std::size_t count) {
    HWY_DYNAMIC_DISPATCH(MixRow)(picture, corrected, coverage, strength, count);
}

}  // namespace dimhem::kernel
#endif
