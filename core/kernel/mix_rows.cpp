#include "core/kernel/mix_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/mix_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/row_transform-inl.h"
#include "core/kernel/srgb-inl.h"
#include "core/kernel/srgb_rows.h"

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

void MixRowInLight(MixingLaw law, EncodedRow picture, ConstLinearRow corrected, const std::uint16_t* coverage,
                   float strength, std::size_t count) {
    const hn::ScalableTag<float> d;
    const bool isShadow = law == MixingLaw::shadow;
    TransformRgb(d, picture.red, picture.green, picture.blue, count,
                 [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
                     auto weight = hn::Set(d, strength);
                     if (coverage) weight = hn::Mul(LoadCoverage(d, coverage, i, count), weight);
                     const auto none = hn::Eq(weight, hn::Zero(d));
                     const auto one = hn::Set(d, 1.0f);
                     const auto mix = [&](auto below, const float* above) HWY_ATTR {
                         const auto p = DecodeSrgb(d, below), j = LoadSome(d, above, i, count);
                         auto mixed = hn::MulAdd(hn::Sub(j, p), weight, p);
                         if (isShadow) {
                             // Black and below counts as next to black, and pushing stops before all is white.
                             constexpr float black = 1e-5f, leastPart = 0.02f;
                             const auto ratio = hn::Div(hn::Max(p, hn::Set(d, black)), hn::Max(j, hn::Set(d, black)));
                             const auto part = hn::Add(hn::Sub(one, weight), hn::Mul(weight, ratio));
                             mixed = hn::Div(p, hn::Max(part, hn::Set(d, leastPart)));
                         }
                         return hn::IfThenElse(none, below, EncodeSrgb(d, mixed));
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
HWY_EXPORT(MixRowInLight);

namespace {

constexpr MixingLawInfo laws[] = {
    {MixingLaw::even, "even", "Even", "Half covered looks half way: for most corrections."},
    {MixingLaw::light, "light", "Light", "Half covered has half of the light: as when lamps are turned up or down."},
    {MixingLaw::shadow, "shadow", "Shadow", "Undoes the soft border of a shadow: lifted, it leaves no bright seam."},
};

}  // namespace

std::span<const MixingLawInfo> mixingLaws() {
    return laws;
}

std::optional<MixingLaw> mixingLawOf(std::string_view id) {
    for (const MixingLawInfo& info : laws) {
        if (info.id == id) return info.law;
    }
    return std::nullopt;
}

std::string_view idOf(MixingLaw law) {
    return laws[static_cast<std::size_t>(law)].id;
}

void mixRow(EncodedRow picture, ConstEncodedRow corrected, const std::uint16_t* coverage, float strength,
            std::size_t count) {
    HWY_DYNAMIC_DISPATCH(MixRow)(picture, corrected, coverage, strength, count);
}

void mixRowInLight(MixingLaw law, EncodedRow picture, EncodedRow corrected, const std::uint16_t* coverage,
                   float strength, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(MixRowInLight)(law, picture, decoded(corrected, count), coverage, strength, count);
}

}  // namespace dimhem::kernel
#endif
