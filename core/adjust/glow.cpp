#include "core/adjust/glow.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/glow.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>

#include "core/adjust/level_gaussian.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/kernel/row_transform-inl.h"
#include "core/kernel/srgb_rows.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

void AddLightRow(const float* gains, const float* const* light, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    float* const rows[3] = {pixels.red, pixels.green, pixels.blue};
    for (int c = 0; c < 3; ++c) {
        const auto gain = hn::Set(d, gains[c]);
        kernel::HWY_NAMESPACE::TransformRow(d, rows[c], count, [&](std::size_t i, auto v) HWY_ATTR {
            return hn::MulAdd(gain, kernel::HWY_NAMESPACE::LoadSome(d, light[c], i, count), v);
        });
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(AddLightRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "amount", .label = "Amount", .unit = "%", .max = 100, .tip = "How much of the soft light is added."},
    {.id = "radius",
     .label = "Radius",
     .unit = "px",
     .min = 4,
     .max = 800,
     .neutral = 60,
     .tip = "How far bright parts shed light, in pixels of the photo.",
     .scale = base::Scale::logarithmic},
    {.id = "from",
     .label = "From tone",
     .unit = "L*",
     .max = 95,
     .neutral = 60,
     .tip = "The tone from which a part counts as bright; 25 further up it counts in full."},
    {.id = "warmth",
     .label = "Warmth",
     .min = -100,
     .max = 100,
     .tip = "Whether the light is cooler than what sheds it, or warmer."},
};
constexpr std::size_t amount = base::placeOf(params, "amount"), radius = base::placeOf(params, "radius"),
                      from = base::placeOf(params, "from"), warmth = base::placeOf(params, "warmth");

constexpr double fade = 25;  // L*, over which a tone comes to count in full

class Glowing final : public SpatialOperation {
public:
    explicit Glowing(const Settings& settings) : from_(settings.values[from]), blur_(settings.values[radius] / 2) {
        const double tilt = 0.35 * settings.values[warmth] / 100;
        const colour::LinearRgb warm{1 + tilt, 1, 1 - tilt};
        const double scale = settings.values[amount] / 100 / colour::luminance(warm);
        gains_[0] = static_cast<float>(scale * warm.r);
        gains_[1] = static_cast<float>(scale * warm.g);
        gains_[2] = static_cast<float>(scale * warm.b);
    }

    int modelLevel(int level) const override { return blur_.modelLevel(level); }
    int reach(int modelLevel) const override { return blur_.reach(modelLevel); }
    std::size_t planes() const override { return 3; }

    void addModelKey(base::KeyBuilder& key) const override {
        blur_.addTo(key);
        key.add(from_);
    }

    void makeModel(image::EncodedPlanes around, const Area& area, std::span<const image::Plane<float>>,
                   std::span<image::Plane<float>> model) const override {
        image::LinearPlanes bright = kernel::decoded(std::move(around));
        for (int y = 0; y < bright.size().height; ++y) keepBright(kernel::rowOf(bright, y), bright.size().width);
        blur_.blur(std::move(bright), area.level, model);
    }

    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override {
        HWY_DYNAMIC_DISPATCH(AddLightRow)(gains_, model.data(), pixels.linear(), pixels.count());
    }

private:
    // Light below none, as colours beyond sRGB have it in a channel, sheds nothing.
    void keepBright(kernel::LinearRow row, int width) const {
        for (int x = 0; x < width; ++x) {
            const double luminance = colour::luminance({row.red[x], row.green[x], row.blue[x]});
            const double t = std::clamp((colour::lightness(luminance) - from_) / fade, 0.0, 1.0);
            const auto weight = static_cast<float>(t * t * (3 - 2 * t));
            for (float* channel : {row.red, row.green, row.blue}) channel[x] = weight * std::max(0.0f, channel[x]);
        }
    }

    double from_;
    LevelGaussian blur_;
    float gains_[3];
};

bool isIdentity(const Settings& settings) {
    return settings.values[amount] == 0;
}

}  // namespace

const AdjustmentKind glow = {
    .id = "glow",
    .label = "Glow",
    .category = "light over the photo",
    .tip = "Soft light that the bright parts shed round them.",
    .params = params,
    .prepare =
        [](const Settings& settings) {
            Operations out;
            out.emplace_back(std::make_unique<const Glowing>(settings));
            return out;
        },
    .isIdentity = isIdentity,
    .sample =
        [] {
            return neutralWith(glow, {{base::placeOf(params, "amount"), 90}});
        },
};

}  // namespace dimhem::adjust
#endif
