#include "core/adjust/tint.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/tint.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>

#include "core/colour/hsl.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

void TintRow(float colour, float share, float* row, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto add = hn::Set(d, share * colour), keep = hn::Set(d, 1 - share);
    kernel::HWY_NAMESPACE::TransformRow(d, row, count,
                                        [&](std::size_t, auto v) HWY_ATTR { return hn::MulAdd(v, keep, add); });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(TintRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "strength", .label = "Amount", .unit = "%", .max = 100, .tip = "How much of the colour is laid over."},
    {.id = "hue",
     .label = "Hue",
     .unit = "°",
     .max = 360,
     .neutral = 35,
     .tip = "0 red, 120 green, 240 blue; 35 is a warm evening light."},
    {.id = "saturation",
     .label = "Density",
     .unit = "%",
     .max = 100,
     .neutral = 80,
     .tip = "How far the colour is from grey."},
    {.id = "lightness",
     .label = "Lightness",
     .unit = "%",
     .max = 100,
     .neutral = 60,
     .tip = "How light the colour is."},
};
constexpr std::size_t strength = base::placeOf(params, "strength"), hue = base::placeOf(params, "hue"),
                      saturationOf = base::placeOf(params, "saturation"),
                      lightness = base::placeOf(params, "lightness");

class TintOperation final : public EncodedOperation {
public:
    explicit TintOperation(std::span<const double> values)
        : colour_(colour::rgbFromHsl(values[hue], values[saturationOf] / 100, values[lightness] / 100)),
          share_(static_cast<float>(values[strength] / 100)) {}

    void row(kernel::EncodedRow pixels, std::size_t count) const override {
        lay(pixels.red, static_cast<float>(colour_.r), count);
        lay(pixels.green, static_cast<float>(colour_.g), count);
        lay(pixels.blue, static_cast<float>(colour_.b), count);
    }

private:
    void lay(float* row, float value, std::size_t count) const {
        HWY_DYNAMIC_DISPATCH(TintRow)(value, share_, row, count);
    }
    colour::EncodedRgb colour_;
    float share_;
};

}  // namespace

const AdjustmentKind tint = {
    .id = "tint",
    .label = "Colour wash",
    .category = "colour cast",
    .tip = "Lays a colour over, such as warm light from the side.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<TintOperation>(settings.values); },
    .sample =
        [] {
            return neutralWith(tint, {{base::placeOf(params, "strength"), 70},
                                      {base::placeOf(params, "hue"), 40},
                                      {base::placeOf(params, "saturation"), 60}});
        },
};

}  // namespace dimhem::adjust
#endif
