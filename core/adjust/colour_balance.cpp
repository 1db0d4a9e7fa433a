#include "core/adjust/colour_balance.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/colour_balance.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>

#include "core/adjust/pixel-inl.h"
#include "core/colour/lab.h"
#include "core/kernel/row_transform-inl.h"

#ifndef DIMHEM_COLOUR_BALANCE_SETTINGS
#define DIMHEM_COLOUR_BALANCE_SETTINGS
namespace dimhem::adjust {

struct BalanceShifts {
    float dark[3], middle[3], light[3];  // of red, green, blue
    bool keepLuminance;
};

constexpr float halfColoured = 0.1f;  // L*/100

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

// How much colour there is room for at a tone: none in black, half at L* 10.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V Coloured(D d, V tone) {
    const V t = Held(d, tone), square = hn::Mul(t, t);
    return hn::Div(square, hn::Add(square, hn::Set(d, halfColoured * halfColoured)));
}

void BalanceRow(const BalanceShifts& s, kernel::EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    kernel::HWY_NAMESPACE::TransformRgb(d, pixels.red, pixels.green, pixels.blue, count,
                                        [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
                                            const auto y = LuminanceOfEncoded(d, r, g, b);
                                            const auto tone = ToneOf(d, y);
                                            auto tones = TonesOf(d, tone);
                                            if (s.keepLuminance) tones.dark = hn::Mul(tones.dark, Coloured(d, tone));
                                            const auto shifted = [&](auto v, int c) HWY_ATTR {
                                                v = hn::MulAdd(tones.dark, hn::Set(d, s.dark[c]), v);
                                                v = hn::MulAdd(tones.middle, hn::Set(d, s.middle[c]), v);
                                                return hn::MulAdd(tones.light, hn::Set(d, s.light[c]), v);
                                            };
                                            r = shifted(r, 0);
                                            g = shifted(g, 1);
                                            b = shifted(b, 2);
                                            if (s.keepLuminance) BringToLuminance(d, y, r, g, b);
                                        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(BalanceRow);

namespace {

constexpr std::size_t tones = 3, axes = 3;
constexpr std::size_t keepLuminance = tones * axes;
constexpr double fullShift = 0.2;

constexpr base::ParamSpec params[] = {
    {.id = "shadows-red",
     .label = "Shadows C–R",
     .min = -100,
     .max = 100,
     .tip = "Dark tones: towards red, below 0 towards cyan."},
    {.id = "shadows-green",
     .label = "Shadows M–G",
     .min = -100,
     .max = 100,
     .tip = "Dark tones: towards green, below 0 towards magenta."},
    {.id = "shadows-blue",
     .label = "Shadows Y–B",
     .min = -100,
     .max = 100,
     .tip = "Dark tones: towards blue, below 0 towards yellow."},
    {.id = "midtones-red",
     .label = "Mids C–R",
     .min = -100,
     .max = 100,
     .tip = "Middle tones: towards red, below 0 towards cyan."},
    {.id = "midtones-green",
     .label = "Mids M–G",
     .min = -100,
     .max = 100,
     .tip = "Middle tones: towards green, below 0 towards magenta."},
    {.id = "midtones-blue",
     .label = "Mids Y–B",
     .min = -100,
     .max = 100,
     .tip = "Middle tones: towards blue, below 0 towards yellow."},
    {.id = "highlights-red",
     .label = "Lights C–R",
     .min = -100,
     .max = 100,
     .tip = "Light tones: towards red, below 0 towards cyan."},
    {.id = "highlights-green",
     .label = "Lights M–G",
     .min = -100,
     .max = 100,
     .tip = "Light tones: towards green, below 0 towards magenta."},
    {.id = "highlights-blue",
     .label = "Lights Y–B",
     .min = -100,
     .max = 100,
     .tip = "Light tones: towards blue, below 0 towards yellow."},
    {.id = "keep-luminance",
     .label = "Hold light",
     .neutral = 1,
     .tip = "Only the colour changes, not how light it is.",
     .toggle = true},
};

class BalanceOperation final : public EncodedOperation {
public:
    explicit BalanceOperation(const Settings& settings) {
        float* rows[tones] = {shifts_.dark, shifts_.middle, shifts_.light};
        for (std::size_t i = 0; i < tones * axes; ++i)
            rows[i / axes][i % axes] = static_cast<float>(settings.values[i] / 100 * fullShift);
        shifts_.keepLuminance = settings.values[keepLuminance] != 0;
    }
    void row(kernel::EncodedRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(BalanceRow)(shifts_, pixels, count);
    }

private:
    BalanceShifts shifts_;
};

// Of all values that do it those that move the three tones least, so each as much as the colour belongs to it; clamped
// to the ranges.
Settings neutralising(const colour::LinearRgb& linear, double leave) {
    const colour::EncodedRgb shouldBeNeutral = colour::encodedFromLinear(linear);
    const double t = std::clamp(colour::labFromEncoded(shouldBeNeutral).l / 100, 0.0, 1.0);
    const double coloured = t * t / (t * t + double{halfColoured} * double{halfColoured});  // as it keeps the luminance
    const double weights[tones] = {(1 - t) * (1 - t) * coloured, 2 * t * (1 - t), t * t};
    const double squares = weights[0] * weights[0] + weights[1] * weights[1] + weights[2] * weights[2];
    const double channels[axes] = {shouldBeNeutral.r, shouldBeNeutral.g, shouldBeNeutral.b};
    const double grey = (channels[0] + channels[1] + channels[2]) / 3;
    std::vector<double> values;
    for (const base::ParamSpec& param : params) values.push_back(param.neutral);
    for (std::size_t i = 0; i < tones * axes; ++i) {
        const double shift = (1 - leave) * (grey - channels[i % axes]);
        values[i] = base::clamped(params[i], 100 * shift * weights[i / axes] / squares / fullShift);
    }
    return Settings(std::move(values));
}

}  // namespace

const AdjustmentKind colourBalance = {
    .id = "colour-balance",
    .label = "Colour balance",
    .category = "colour cast",
    .tip = "Shifts the colour of dark, middle and light tones apart.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<BalanceOperation>(settings); },
    .neutralising = neutralising,
    .sample =
        [] {
            return neutralWith(colourBalance, {{base::placeOf(params, "midtones-red"), 60},
                                               {base::placeOf(params, "midtones-blue"), -60}});
        },
    .opposite = [](Settings settings) { return withAllMirrored(std::move(settings), params); },
};

}  // namespace dimhem::adjust
#endif
