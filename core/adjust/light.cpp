#include "core/adjust/light.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/light.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>

#include "core/adjust/curve-inl.h"
#include "core/adjust/pixel-inl.h"
#include "core/kernel/row_transform-inl.h"

#ifndef DIMHEM_LIGHT_SETTINGS
#define DIMHEM_LIGHT_SETTINGS
namespace dimhem::adjust {

struct LightSettings {
    float gain = 1;        // of linear light
    float black = 0;       // encoded
    float levelScale = 1;  // 1 / (white - black)
    float midtone = 0;     // m of step 3
    float lift = 0;        // a of step 4
    float contrast = 0;    // c, -1..1
    float hold = 0;        // h, 0..1
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Midtones(D d, V v, const LightSettings& s) {
    const V one = hn::Set(d, 1.0f);
    const V x = hn::Min(hn::Max(v, hn::Zero(d)), one);
    // Outside 0..1 it goes on with the slopes 1 + m below and 1 - m above.
    const V below = hn::Min(v, hn::Zero(d)), above = hn::Max(hn::Sub(v, one), hn::Zero(d));
    const V bulge = hn::Add(hn::Mul(x, hn::Sub(one, x)), hn::Sub(below, above));
    return hn::MulAdd(hn::Set(d, s.midtone), bulge, v);
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Shadows(D d, V v, const LightSettings& s) {
    const V one = hn::Set(d, 1.0f), lift = hn::Set(d, s.lift);
    const V x = hn::Min(hn::Max(v, hn::Zero(d)), one);
    const V rest = hn::Sub(one, x);
    const V bulge = hn::Mul(x, hn::Mul(rest, hn::Mul(rest, rest)));
    const V below = hn::Min(v, hn::Zero(d));  // goes on with the slope at 0
    return hn::MulAdd(lift, hn::Add(bulge, below), v);
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Contrast(D d, V v, const LightSettings& s) {
    const V one = hn::Set(d, 1.0f), contrast = hn::Set(d, s.contrast);
    const V x = hn::Min(hn::Max(v, hn::Zero(d)), one);
    const V bend = hn::Mul(hn::Mul(x, hn::Sub(one, x)), hn::MulSub(hn::Set(d, 2.0f), x, one));
    const V beyond = hn::Sub(v, x);  // outside 0..1, with the slope 1 - c of both ends
    return hn::MulAdd(contrast, hn::Sub(bend, beyond), v);
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Highlights(D d, V v, const LightSettings& s) {
    const V half = hn::Set(d, 0.5f);
    const V over = hn::Max(hn::Sub(v, half), hn::Zero(d));
    const V rolled = hn::NegMulAdd(half, hn::Exp(d, hn::Mul(over, hn::Set(d, -2.0f))), half);
    return hn::MulAdd(hn::Set(d, s.hold), hn::Sub(rolled, over), v);
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Tone(D d, V v, const LightSettings& s) {
    v = hn::Mul(hn::Sub(v, hn::Set(d, s.black)), hn::Set(d, s.levelScale));
    if (s.midtone != 0) v = Midtones(d, v, s);
    if (s.lift != 0) v = Shadows(d, v, s);
    if (s.contrast != 0) v = Contrast(d, v, s);
    if (s.hold != 0) v = Highlights(d, v, s);
    return v;
}

// Each channel by the steps, one after the other.
void StepsRow(const LightSettings& s, float* row, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto gain = hn::Set(d, s.gain);
    kernel::HWY_NAMESPACE::TransformRow(d, row, count, [&](std::size_t, auto v) HWY_ATTR {
        return Tone(d, s.gain == 1 ? v : EncodeSrgb(d, hn::Mul(DecodeSrgb(d, v), gain)), s);
    });
}

// Each channel by the steps composed; by the steps themselves where it is beyond 0..1.
void ComposedRow(const LightSettings& s, const CurveTable& curve, float* row, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto zero = hn::Zero(d), one = hn::Set(d, 1.0f), gain = hn::Set(d, s.gain);
    kernel::HWY_NAMESPACE::TransformRow(d, row, count, [&](std::size_t, auto v) HWY_ATTR {
        const auto y = CurveAt(d, v, curve);
        const auto beyond = hn::Or(hn::Lt(v, zero), hn::Gt(v, one));
        if (HWY_LIKELY(hn::AllFalse(d, beyond))) return y;
        return hn::IfThenElse(beyond, Tone(d, EncodeSrgb(d, hn::Mul(DecodeSrgb(d, v), gain)), s), y);
    });
}

void GainRow(float gain, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    for (float* row : {pixels.red, pixels.green, pixels.blue}) {
        kernel::HWY_NAMESPACE::TransformRow(d, row, count,
                                            [&](std::size_t, auto v) HWY_ATTR { return hn::Mul(v, hn::Set(d, gain)); });
    }
}

void LuminanceRow(const LightSettings& s, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto gain = hn::Set(d, s.gain);
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
            r = hn::Mul(r, gain);
            g = hn::Mul(g, gain);
            b = hn::Mul(b, gain);
            ToneKeepingColour(
                d, [&](auto y) HWY_ATTR { return DecodeSrgb(d, Tone(d, EncodeSrgb(d, y), s)); }, r, g, b);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(StepsRow);
HWY_EXPORT(ComposedRow);
HWY_EXPORT(GainRow);
HWY_EXPORT(LuminanceRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "exposure",
     .label = "Exposure",
     .unit = "EV",
     .min = -5,
     .max = 5,
     .step = 0.05,
     .decimals = 2,
     .tip = "Brighter or darker, in stops: +1 doubles the light.",
     .scale = base::Scale::aboutNeutral},
    {.id = "contrast",
     .label = "Contrast",
     .min = -100,
     .max = 100,
     .tip = "Steeper or flatter about the middle tone."},
    {.id = "shadow-lift",
     .label = "Shadow lift",
     .min = -100,
     .max = 100,
     .tip = "Opens the dark tones, or deepens them."},
    {.id = "highlight-hold", .label = "Highlight hold", .max = 100, .tip = "Rolls bright tones off before they clip."},
    {.id = "black-point",
     .label = "Black point",
     .unit = "%",
     .min = -30,
     .max = 50,
     .step = 0.5,
     .decimals = 1,
     .tip = "The tone that becomes black."},
    {.id = "white-point",
     .label = "White point",
     .unit = "%",
     .min = 50,
     .max = 150,
     .neutral = 100,
     .step = 0.5,
     .decimals = 1,
     .tip = "The tone that becomes white."},
    {.id = "midtone",
     .label = "Midtone",
     .min = -100,
     .max = 100,
     .tip = "Lighter or darker between black and white, which stay."},
    {.id = "hold-colour",
     .label = "Hold colour",
     .tip = "Change the tone only: colours get neither denser nor thinner.",
     .toggle = true},
};
constexpr std::size_t exposure = base::placeOf(params, "exposure"), contrast = base::placeOf(params, "contrast"),
                      shadowLift = base::placeOf(params, "shadow-lift"),
                      highlightHold = base::placeOf(params, "highlight-hold"),
                      blackPoint = base::placeOf(params, "black-point"),
                      whitePoint = base::placeOf(params, "white-point"), midtone = base::placeOf(params, "midtone"),
                      holdColour = base::placeOf(params, "hold-colour");

class Exposure final : public LinearOperation {
public:
    explicit Exposure(float gain) : gain_(gain) {}
    void row(kernel::LinearRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(GainRow)(gain_, pixels, count);
    }

private:
    float gain_;
};

class LightOfLuminance final : public LinearOperation {
public:
    explicit LightOfLuminance(const LightSettings& settings) : settings_(settings) {}
    void row(kernel::LinearRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(LuminanceRow)(settings_, pixels, count);
    }

private:
    LightSettings settings_;
};

double exposed(const LightSettings& s, double encoded) {
    return s.gain == 1 ? encoded : colour::encodedFromLinear(double{s.gain} * colour::linearFromEncoded(encoded));
}

// Steps 2 to 5.
double tone(const LightSettings& s, double v) {
    v = (v - double{s.black}) * double{s.levelScale};
    double x = std::clamp(v, 0.0, 1.0);
    v += double{s.midtone} * (x * (1 - x) + std::min(v, 0.0) - std::max(v - 1, 0.0));
    x = std::clamp(v, 0.0, 1.0);
    v += double{s.lift} * (x * (1 - x) * (1 - x) * (1 - x) + std::min(v, 0.0));
    x = std::clamp(v, 0.0, 1.0);
    return v + double{s.contrast} * (x * (1 - x) * (2 * x - 1) - (v - x));
}

double held(const LightSettings& s, double v) {
    const double over = std::max(v - 0.5, 0.0);
    return v + double{s.hold} * (0.5 - 0.5 * std::exp(-2 * over) - over);
}

// Where the composition changes its form: the knees of the sRGB curve, what becomes black and white, where the hold
// begins.
std::vector<double> breaksOf(const LightSettings& s) {
    constexpr double decodeKnee = 0.04045, encodeKnee = 0.0031308;  // IEC 61966-2-1
    const auto before = [&](double v) {
        return colour::encodedFromLinear(colour::linearFromEncoded(v) / double{s.gain});
    };
    double low = -1, high = 2;
    for (int i = 0; i < 50; ++i) {
        const double middle = (low + high) / 2;
        (tone(s, middle) < 0.5 ? low : high) = middle;
    }
    const double black = double{s.black}, white = black + 1 / double{s.levelScale};
    return {decodeKnee, colour::encodedFromLinear(encodeKnee / double{s.gain}), before(black), before(white),
            before(low)};
}

class LightOfChannels final : public EncodedOperation {
public:
    explicit LightOfChannels(const LightSettings& settings)
        : settings_(settings),
          curve_(fittedTable([&](double v) { return held(settings, tone(settings, exposed(settings, v))); },
                             breaksOf(settings))) {}
    void row(kernel::EncodedRow pixels, std::size_t count) const override {
        for (float* channel : {pixels.red, pixels.green, pixels.blue}) {
            if (curve_) {
                HWY_DYNAMIC_DISPATCH(ComposedRow)(settings_, *curve_, channel, count);
            } else {
                HWY_DYNAMIC_DISPATCH(StepsRow)(settings_, channel, count);
            }
        }
    }

private:
    LightSettings settings_;
    std::optional<CurveTable> curve_;  // none where the steps are too steep for one
};

LightSettings prepared(const std::vector<double>& values) {
    LightSettings s;
    s.gain = static_cast<float>(std::exp2(values[exposure]));
    const double black = values[blackPoint] / 100;
    const double white = std::max(values[whitePoint] / 100, black + 0.01);
    s.black = static_cast<float>(black);
    s.levelScale = static_cast<float>(1 / (white - black));
    s.midtone = static_cast<float>(0.9 * values[midtone] / 100);
    const double lift = values[shadowLift] / 100;
    s.lift = static_cast<float>(lift >= 0 ? 2.5 * lift : 0.9 * lift);
    s.contrast = static_cast<float>(values[contrast] / 100);
    s.hold = static_cast<float>(values[highlightHold] / 100);
    return s;
}

Operations prepare(const Settings& settings) {
    const std::vector<double>& values = settings.values;
    const LightSettings s = prepared(values);
    const bool exposureAlone =
        s.black == 0 && s.levelScale == 1 && s.midtone == 0 && s.lift == 0 && s.contrast == 0 && s.hold == 0;
    if (exposureAlone) return only<Exposure>(s.gain);
    return values[holdColour] != 0 ? only<LightOfLuminance>(s) : only<LightOfChannels>(s);
}

// By what changes the tones as a whole; else by contrast.
std::string_view sense(const Settings& settings) {
    for (const std::size_t i : {exposure, midtone, shadowLift}) {
        if (settings.values[i] != 0) return settings.values[i] > 0 ? "lighter" : "darker";
    }
    if (settings.values[contrast] != 0) return settings.values[contrast] > 0 ? "more contrast" : "less contrast";
    return "tones";
}

}  // namespace

const AdjustmentKind light = {
    .id = "light",
    .label = "Light",
    .category = "tone",
    .tip = "Brightness, contrast and the two ends of the tone scale.",
    .params = params,
    .prepare = prepare,
    .sample =
        [] {
            return neutralWith(light, {{base::placeOf(params, "exposure"), 1.2}});
        },
    .sense = sense,
    .opposite = [](Settings settings) { return withAllMirrored(std::move(settings), params); },
};

}  // namespace dimhem::adjust
#endif
