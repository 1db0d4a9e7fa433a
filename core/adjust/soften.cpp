#include "core/adjust/soften.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/soften.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/adjust/level_gaussian.h"
#include "core/kernel/row_transform-inl.h"
#include "core/kernel/srgb_rows.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

void SoftenRow(float amount, const float* const* mean, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    float* const rows[3] = {pixels.red, pixels.green, pixels.blue};
    for (int c = 0; c < 3; ++c) {
        kernel::HWY_NAMESPACE::TransformRow(d, rows[c], count, [&](std::size_t i, auto v) HWY_ATTR {
            const auto to = kernel::HWY_NAMESPACE::LoadSome(d, mean[c], i, count);
            return hn::MulAdd(hn::Sub(to, v), hn::Set(d, amount), v);
        });
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(SoftenRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "amount",
     .label = "Amount",
     .unit = "%",
     .max = 100,
     .tip = "How far each pixel goes to the mean of those round it."},
    {.id = "radius",
     .label = "Radius",
     .unit = "px",
     .min = 1,
     .max = 200,
     .neutral = 8,
     .tip = "How large what it softens is, in pixels of the photo.",
     .scale = base::Scale::logarithmic},
};
constexpr std::size_t amount = base::placeOf(params, "amount"), radius = base::placeOf(params, "radius");

class Softening final : public SpatialOperation {
public:
    explicit Softening(const Settings& settings)
        : amount_(static_cast<float>(settings.values[amount] / 100)), blur_(settings.values[radius] / 2) {}

    int modelLevel(int level) const override { return blur_.modelLevel(level); }
    int reach(int modelLevel) const override { return blur_.reach(modelLevel); }
    std::size_t planes() const override { return 3; }

    void addModelKey(base::KeyBuilder& key) const override { blur_.addTo(key); }

    void makeModel(image::EncodedPlanes around, const Area& area, std::span<const image::Plane<float>>,
                   std::span<image::Plane<float>> model) const override {
        blur_.blur(kernel::decoded(std::move(around)), area.level, model);
    }

    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override {
        HWY_DYNAMIC_DISPATCH(SoftenRow)(amount_, model.data(), pixels.linear(), pixels.count());
    }

private:
    float amount_;
    LevelGaussian blur_;
};

Operations prepare(const Settings& settings) {
    Operations out;
    out.emplace_back(std::make_unique<const Softening>(settings));
    return out;
}

bool isIdentity(const Settings& settings) {
    return settings.values[amount] == 0;
}

}  // namespace

const AdjustmentKind soften = {
    .id = "soften",
    .label = "Soften",
    .category = "detail",
    .tip = "Blurs, evenly in all directions.",
    .params = params,
    .prepare = prepare,
    .isIdentity = isIdentity,
    .sample =
        [] {
            return neutralWith(soften, {{base::placeOf(params, "amount"), 100}});
        },
};

}  // namespace dimhem::adjust
#endif
