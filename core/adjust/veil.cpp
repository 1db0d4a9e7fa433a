#include "core/adjust/veil.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/veil.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>

#include "core/adjust/veil_colour.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

void VeilRow(float amount, const float (&colour)[3], kernel::LinearRow pixels, const float* weights,
             std::size_t count) {
    constexpr float mostDense = 0.97f;
    const hn::ScalableTag<float> d;
    const auto one = hn::Set(d, 1.0f);
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto density = kernel::HWY_NAMESPACE::LoadSome(d, weights, i, count);
            const auto w = hn::Min(hn::Mul(density, hn::Set(d, amount)), hn::Set(d, mostDense));
            // Below 0: (1 - |w|) J + |w| C = J + w (J - C).
            const auto taken = hn::Div(w, hn::Sub(one, w));
            const auto by = hn::IfThenElse(hn::Lt(w, hn::Zero(d)), hn::Max(w, hn::Neg(one)), taken);
            const auto out = [&](auto v, float c) HWY_ATTR { return hn::MulAdd(hn::Sub(v, hn::Set(d, c)), by, v); };
            r = out(r, colour[0]);
            g = out(g, colour[1]);
            b = out(b, colour[2]);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(VeilRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "amount",
     .label = "Amount",
     .unit = "%",
     .min = -100,
     .max = 100,
     .step = 0.5,
     .decimals = 1,
     .tip = "How much of the veil is taken off; below 0 one is laid over."},
    {.id = "red",
     .label = "Red",
     .unit = "%",
     .max = 100,
     .neutral = 80,
     .step = 0.5,
     .decimals = 1,
     .tip = "Red of the veil's own light."},
    {.id = "green",
     .label = "Green",
     .unit = "%",
     .max = 100,
     .neutral = 80,
     .step = 0.5,
     .decimals = 1,
     .tip = "Green of the veil's own light."},
    {.id = "blue",
     .label = "Blue",
     .unit = "%",
     .max = 100,
     .neutral = 80,
     .step = 0.5,
     .decimals = 1,
     .tip = "Blue of the veil's own light."},
    {.id = "lightness",
     .label = "Its lightness",
     .unit = "×",
     .min = 0.5,
     .max = 16,
     .neutral = 1,
     .step = 0.005,
     .decimals = 3,
     .tip = "How many times as light its own light is as its three channels say: where it is dense, little counts.",
     .scale = base::Scale::logarithmic},
};
constexpr std::size_t amount = base::placeOf(params, "amount"), red = base::placeOf(params, "red"),
                      green = base::placeOf(params, "green"), blue = base::placeOf(params, "blue"),
                      lightness = base::placeOf(params, "lightness");

class Veiling final : public CoverageOperation {
public:
    explicit Veiling(const Settings& settings) : amount_(static_cast<float>(settings.values[amount] / 100)) {
        const colour::LinearRgb light = veilColourOf(settings);
        colour_[0] = static_cast<float>(light.r);
        colour_[1] = static_cast<float>(light.g);
        colour_[2] = static_cast<float>(light.b);
    }
    void row(kernel::LinearRow pixels, const float* weights, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(VeilRow)(amount_, colour_, pixels, weights, count);
    }

private:
    float amount_, colour_[3];
};

Operations prepare(const Settings& settings) {
    Operations out;
    out.emplace_back(std::make_unique<const Veiling>(settings));
    return out;
}

bool isIdentity(const Settings& settings) {
    return settings.values[amount] == 0;
}

double rounded(double percent) {
    return std::round(std::clamp(percent, 0.0, 100.0) * 100) / 100;
}

}  // namespace

colour::LinearRgb veilColourOf(const Settings& settings) {
    const auto& v = settings.values;
    const double as = v[lightness];
    return {as * v[red] / 100, as * v[green] / 100, as * v[blue] / 100};
}

Settings withVeilColour(Settings settings, const colour::LinearRgb& colour) {
    // Brighter than white, such as light shone into a lens, by the lightness alone.
    const double most = std::max({1.0, colour.r, colour.g, colour.b});
    settings.values[lightness] = std::min(std::ceil(most * 1000) / 1000, params[lightness].max);
    settings.values[red] = rounded(100 * colour.r / settings.values[lightness]);
    settings.values[green] = rounded(100 * colour.g / settings.values[lightness]);
    settings.values[blue] = rounded(100 * colour.b / settings.values[lightness]);
    return settings;
}

double noiseGainOf(const Settings& settings, double coverage) {
    const double w = std::clamp(coverage * settings.values[amount] / 100, 0.0, 0.97);
    return 1 / (1 - w);
}

const AdjustmentKind veil = {
    .id = "veil",
    .label = "Veil",
    .category = "light over the photo",
    .tip = "Takes off light that lies over the photo.",
    .params = params,
    .prepare = prepare,
    .isIdentity = isIdentity,
    .measure =
        [](Settings settings, const Subject& subject) {
            const auto found = foundVeil(subject);
            if (!found) return settings;
            settings.values[amount] = rounded(100 * found->density);
            return withVeilColour(std::move(settings), found->colour);
        },
    .sense = [](const Settings& settings) -> std::string_view {
        return settings.values[amount] > 0 ? "less veil" : "more veil";
    },
    .opposite = [](Settings settings) { return withMirrored(std::move(settings), params, std::array{amount}); },
};

}  // namespace dimhem::adjust
#endif
