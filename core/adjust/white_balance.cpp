#include "core/adjust/white_balance.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/white_balance.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/colour/white_point.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
void MatrixRow(const float (&m)[9], kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto out = [&](const float* row) HWY_ATTR {
                return hn::MulAdd(hn::Set(d, row[0]), r,
                                  hn::MulAdd(hn::Set(d, row[1]), g, hn::Mul(hn::Set(d, row[2]), b)));
            };
            const auto red = out(m), green = out(m + 3);
            b = out(m + 6);
            r = red;
            g = green;
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(MatrixRow);

namespace {

constexpr double neutralTempK = 6500;
constexpr double duvPerTint = 0.0005;

constexpr base::ParamSpec params[] = {
    {.id = "temperature",
     .label = "Temperature",
     .unit = "K",
     .min = 2000,
     .max = 20000,
     .neutral = neutralTempK,
     .step = 50,
     .tip = "Assumed colour temperature of the light: higher warms the picture.",
     .scale = base::Scale::reciprocal},
    {.id = "tint",
     .label = "Tint",
     .min = -100,
     .max = 100,
     .step = 0.5,
     .decimals = 1,
     .tip = "Towards green (below 0) or magenta (above).",
     .scale = base::Scale::aboutNeutral},
};
constexpr std::size_t temperature = base::placeOf(params, "temperature"), tint = base::placeOf(params, "tint");

// Far from the locus a white has hardly any blue, or less than none: the tint goes as far as no cone is amplified more
// than this.
constexpr double mostGain = 12;

colour::Matrix3 matrixOf(std::span<const double> values) {
    const colour::Chromaticity display = colour::whiteOf({neutralTempK, 0});
    const auto whiteAt = [&](double part) {
        return colour::whiteOf({values[temperature], part * values[tint] * duvPerTint});
    };
    const auto isSound = [&](double part) {
        const auto gains = colour::coneGains(whiteAt(part), display);
        return std::all_of(gains.begin(), gains.end(), [](double gain) { return gain > 0 && gain <= mostGain; });
    };
    double most = 1;
    if (!isSound(1)) {
        double least = 0;
        for (int i = 0; i < 40; ++i) (isSound((least + most) / 2) ? least : most) = (least + most) / 2;
        most = least;
    }
    return colour::adaptationOfLinear(whiteAt(most), display);
}

class MatrixOperation final : public LinearOperation {
public:
    explicit MatrixOperation(const colour::Matrix3& matrix) {
        for (std::size_t i = 0; i < 9; ++i) m_[i] = static_cast<float>(matrix[i / 3][i % 3]);
    }
    void row(kernel::LinearRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(MatrixRow)(m_, pixels, count);
    }

private:
    float m_[9];
};

// Red = green = blue, but for the share left of its distance from the grey of its luminance; clamped to the ranges.
// A colour without light gives the neutral values.
Settings neutralising(const colour::LinearRgb& shouldBeNeutral, double leave) {
    // The wanted white is not the colour itself but what the adaptation takes to grey, and grey is the display's white,
    // a little off the locus: carry that difference over by adapting the colour first.
    const double grey = colour::luminance(shouldBeNeutral);
    const auto taken = [&](double v) { return grey + (1 - leave) * (v - grey); };
    const colour::Xyz xyz =
        colour::xyzFromLinear({taken(shouldBeNeutral.r), taken(shouldBeNeutral.g), taken(shouldBeNeutral.b)});
    const double sum = xyz.x + xyz.y + xyz.z;
    if (!(sum > 1e-6) || !(xyz.y > 0)) return Settings({params[temperature].neutral, params[tint].neutral});
    const colour::Xyz white = colour::xyzFromLinear({1, 1, 1});
    const double whiteSum = white.x + white.y + white.z;
    const colour::Matrix3 toLocus =
        colour::bradford({white.x / whiteSum, white.y / whiteSum}, colour::whiteOf({neutralTempK, 0}));
    const double v[3] = {xyz.x, xyz.y, xyz.z};
    double w[3];
    for (std::size_t i = 0; i < 3; ++i) w[i] = toLocus[i][0] * v[0] + toLocus[i][1] * v[1] + toLocus[i][2] * v[2];
    const double wSum = w[0] + w[1] + w[2];
    const colour::WhiteSetting setting = colour::settingOf({w[0] / wSum, w[1] / wSum});
    return Settings(
        {base::clamped(params[temperature], setting.tempK), base::clamped(params[tint], setting.duv / duvPerTint)});
}

std::string_view sense(const Settings& settings) {
    if (settings.values[temperature] != neutralTempK)
        return settings.values[temperature] > neutralTempK ? "warmer" : "cooler";
    return settings.values[tint] > 0 ? "towards magenta" : "towards green";
}

}  // namespace

const AdjustmentKind whiteBalance = {
    .id = "white-balance",
    .label = "White balance",
    .category = "colour cast",
    .tip = "Warms, cools or shifts between green and magenta.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<MatrixOperation>(matrixOf(settings.values)); },
    .neutralising = neutralising,
    .sample =
        [] {
            return neutralWith(whiteBalance, {{base::placeOf(params, "temperature"), 10000}});
        },
    .sense = sense,
    .opposite = [](Settings settings) { return withAllMirrored(std::move(settings), params); },
};

}  // namespace dimhem::adjust
#endif
