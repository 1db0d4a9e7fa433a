#include "core/adjust/saturation.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/saturation.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/adjust/pixel-inl.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

// How far the linear channels can go from y before one leaves 0..1, and a little less the nearer they are to it, so
// that colours beside one another get about the same; at least 1.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V RoomOf(D d, V y, V r, V g, V b) {
    constexpr float early = 0.06f;
    const V one = hn::Set(d, 1.0f);
    V least = one, share = hn::Zero(d);  // of the channel with the least room: the way, and what divides it
    for (const V v : {r, g, b}) {
        const V off = hn::Sub(v, y), size = hn::Abs(off);
        const V way = hn::IfThenElse(hn::Gt(off, hn::Zero(d)), hn::Sub(one, y), y);
        const V by = hn::MulAdd(hn::Set(d, early), hn::Sub(one, size), size);
        const auto nearer = hn::Lt(hn::Mul(way, share), hn::Mul(least, by));
        least = hn::IfThenElse(nearer, way, least);
        share = hn::IfThenElse(nearer, by, share);
    }
    return hn::Max(one, hn::Div(least, share));
}

// How dense an encoded colour is, (max - min) / max of the channels held to 0..1.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V DensityOf(D d, V r, V g, V b) {
    const V hr = Held(d, r), hg = Held(d, g), hb = Held(d, b);
    const V most = EncodeSrgb(d, hn::Max(hr, hn::Max(hg, hb))), least = EncodeSrgb(d, hn::Min(hr, hn::Min(hg, hb)));
    return hn::Div(hn::Sub(most, least), hn::Max(most, hn::Set(d, 1e-6f)));
}

void SaturationRow(float amount, bool guards, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto one = hn::Set(d, 1.0f);
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto y = Luminance(d, r, g, b);
            auto k = hn::Set(d, 1 + amount);
            if (amount > 0) {
                k = hn::MulAdd(hn::Set(d, amount), hn::Sub(one, DensityOf(d, r, g, b)), one);
                if (guards) k = hn::Min(k, RoomOf(d, y, r, g, b));
            }
            r = hn::MulAdd(k, hn::Sub(r, y), y);
            g = hn::MulAdd(k, hn::Sub(g, y), y);
            b = hn::MulAdd(k, hn::Sub(b, y), y);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(SaturationRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "amount",
     .label = "Amount",
     .min = -100,
     .max = 100,
     .tip = "More colour, or less; -100 leaves grey. What is dense gains less."},
    {.id = "guard", .label = "Guard", .neutral = 1, .tip = "An increase stops before a channel clips.", .toggle = true},
};
constexpr std::size_t amount = base::placeOf(params, "amount"), guard = base::placeOf(params, "guard");

class SaturationOperation final : public LinearOperation {
public:
    explicit SaturationOperation(const Settings& settings)
        : amount_(static_cast<float>(settings.values[amount] / 100)), guards_(settings.values[guard] != 0) {}

    void row(kernel::LinearRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(SaturationRow)(amount_, guards_, pixels, count);
    }

private:
    float amount_;
    bool guards_;
};

}  // namespace

const AdjustmentKind saturation = {
    .id = "saturation",
    .label = "Saturation",
    .category = "colour cast",
    .tip = "More or less colour; the luminance stays.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<SaturationOperation>(settings); },
    .sample =
        [] {
            return neutralWith(saturation, {{base::placeOf(params, "amount"), 80}});
        },
    .sense = [](const Settings& settings) -> std::string_view {
        return settings.values[amount] > 0 ? "more colour" : "less colour";
    },
    .opposite = [](Settings settings) { return withAllMirrored(std::move(settings), params); },
};

}  // namespace dimhem::adjust
#endif
