#include "core/adjust/spill_suppression.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/spill_suppression.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <cmath>
#include <numbers>

#include "core/adjust/pixel-inl.h"
#include "core/kernel/row_transform-inl.h"

#ifndef DIMHEM_SPILL_SETTINGS
#define DIMHEM_SPILL_SETTINGS
namespace dimhem::adjust {

struct SpillSettings {
    float amount, towardsMost, lightBack;  // 0..1
    float dark, middle, light;             // 0..1, how far each tone takes part
    float turn[3];  // the first row of the matrix that turns the screen's hue to green; the others are it shifted
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

void SpillRow(const SpillSettings& s, kernel::EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto turned = [&](auto a, auto b, auto c) HWY_ATTR {
        return hn::MulAdd(hn::Set(d, s.turn[0]), a,
                          hn::MulAdd(hn::Set(d, s.turn[1]), b, hn::Mul(hn::Set(d, s.turn[2]), c)));
    };
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto hr = Held(d, r), hg = Held(d, g), hb = Held(d, b);
            const auto one = turned(hr, hg, hb), screen = turned(hg, hb, hr), other = turned(hb, hr, hg);
            const auto most = hn::Max(one, other), mean = hn::Mul(hn::Set(d, 0.5f), hn::Add(one, other));
            const auto limit = hn::MulAdd(hn::Set(d, s.towardsMost), hn::Sub(most, mean), mean);
            const auto excess = hn::Sub(screen, limit);
            const auto spilled = hn::Gt(excess, hn::Set(d, 1e-6f));
            if (hn::AllFalse(d, spilled)) return;
            const auto y = LuminanceOfEncoded(d, r, g, b);
            const auto tones = TonesOf(d, ToneOf(d, y));
            const auto takes =
                hn::MulAdd(tones.dark, hn::Set(d, s.dark),
                           hn::MulAdd(tones.middle, hn::Set(d, s.middle), hn::Mul(tones.light, hn::Set(d, s.light))));
            const auto off = hn::Mul(hn::Mul(takes, hn::Set(d, s.amount)), excess);
            // Turned back, a change of green alone lies along the middle column of the inverse: the row of the matrix.
            auto nr = hn::NegMulAdd(hn::Set(d, s.turn[2]), off, r), ng = hn::NegMulAdd(hn::Set(d, s.turn[0]), off, g),
                 nb = hn::NegMulAdd(hn::Set(d, s.turn[1]), off, b);
            if (s.lightBack > 0) {
                const auto lr = DecodeSrgb(d, nr), lg = DecodeSrgb(d, ng), lb = DecodeSrgb(d, nb);
                const auto lost = hn::Mul(hn::Set(d, s.lightBack), hn::Sub(y, Luminance(d, lr, lg, lb)));
                nr = EncodeSrgb(d, hn::Add(lr, lost));
                ng = EncodeSrgb(d, hn::Add(lg, lost));
                nb = EncodeSrgb(d, hn::Add(lb, lost));
            }
            r = hn::IfThenElse(spilled, nr, r);
            g = hn::IfThenElse(spilled, ng, g);
            b = hn::IfThenElse(spilled, nb, b);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(SpillRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "amount", .label = "Amount", .unit = "%", .max = 100, .tip = "How much of the screen's light is taken off."},
    {.id = "limit",
     .label = "Limit",
     .unit = "%",
     .max = 100,
     .tip = "What the screen's channel may keep: 0 the mean of the other two, 100 the stronger of them."},
    {.id = "light-back",
     .label = "Light back",
     .unit = "%",
     .max = 100,
     .neutral = 50,
     .tip = "How much of the light lost by it is given back, as grey."},
    {.id = "shadows",
     .label = "Shadows",
     .unit = "%",
     .max = 100,
     .neutral = 100,
     .tip = "How far dark tones take part."},
    {.id = "midtones",
     .label = "Midtones",
     .unit = "%",
     .max = 100,
     .neutral = 100,
     .tip = "How far middle tones take part."},
    {.id = "highlights",
     .label = "Highlights",
     .unit = "%",
     .max = 100,
     .neutral = 100,
     .tip = "How far light tones take part."},
    {.id = "screen",
     .label = "Screen hue",
     .unit = "°",
     .max = 360,
     .neutral = 120,
     .tip = "The colour of the screen or of the bounced light: 120 green, 240 blue."},
};
constexpr std::size_t amount = base::placeOf(params, "amount"), limit = base::placeOf(params, "limit"),
                      lightBack = base::placeOf(params, "light-back"), shadows = base::placeOf(params, "shadows"),
                      midtones = base::placeOf(params, "midtones"), highlights = base::placeOf(params, "highlights"),
                      screen = base::placeOf(params, "screen");

SpillSettings prepared(const std::vector<double>& values) {
    const auto part = [&](std::size_t value) { return static_cast<float>(values[value] / 100); };
    SpillSettings s{part(amount), part(limit), part(lightBack), part(shadows), part(midtones), part(highlights), {}};
    // A turn about the grey axis: with a third of a turn or two the channels only change places.
    const double angle = (120 - values[screen]) * std::numbers::pi / 180;
    for (int i = 0; i < 3; ++i) {
        s.turn[i] = static_cast<float>(1.0 / 3 + 2.0 / 3 * std::cos(angle + i * 2 * std::numbers::pi / 3));
        if (std::abs(s.turn[i]) < 1e-6f) s.turn[i] = 0;
        if (std::abs(s.turn[i] - 1) < 1e-6f) s.turn[i] = 1;
    }
    return s;
}

class SuppressOperation final : public EncodedOperation {
public:
    explicit SuppressOperation(const SpillSettings& settings) : settings_(settings) {}
    void row(kernel::EncodedRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(SpillRow)(settings_, pixels, count);
    }

private:
    SpillSettings settings_;
};

}  // namespace

double screenHueOf(const colour::EncodedRgb& c) {
    const double degrees = std::atan2(std::numbers::sqrt3 * (c.g - c.b), 2 * c.r - c.g - c.b) * 180 / std::numbers::pi;
    return degrees < 0 ? degrees + 360 : degrees;
}

const AdjustmentKind spillSuppression = {
    .id = "spill-suppression",
    .label = "Spill suppression",
    .category = "colour cast",
    .tip = "Removes the light that a screen behind a subject, or a lawn before it, throws on it.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<SuppressOperation>(prepared(settings.values)); },
    .isIdentity = [](const Settings& settings) { return settings.values[amount] == 0; },
    .sample =
        [] {
            return neutralWith(spillSuppression, {{base::placeOf(params, "amount"), 100}});
        },
};

}  // namespace dimhem::adjust
#endif
