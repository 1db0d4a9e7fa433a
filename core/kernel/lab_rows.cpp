#include "core/kernel/lab_rows.h"

#include "core/colour/lab.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/lab_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/cube_root-inl.h"
#include "core/kernel/row_transform-inl.h"
#include "core/kernel/srgb-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

// The curve of L*, a* and b* (CIE 15:2004) of a value over that of white.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V LabCurve(D d, V t) {
    constexpr float breakpoint = (24.0f / 116) * (24.0f / 116) * (24.0f / 116);
    const V low = hn::MulAdd(hn::Set(d, 841.0f / 108), t, hn::Set(d, 16.0f / 116));
    return hn::IfThenElse(hn::Gt(t, hn::Set(d, breakpoint)), CubeRoot(d, t), low);
}

// `m`: linear sRGB to XYZ over that of white, row by row.
void LabRow(const float* m, EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRgb(d, pixels.red, pixels.green, pixels.blue, count, [=](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
        r = DecodeSrgb(d, r);
        g = DecodeSrgb(d, g);
        b = DecodeSrgb(d, b);
        const auto part = [&](const float* w) HWY_ATTR {
            return LabCurve(
                d, hn::MulAdd(hn::Set(d, w[0]), r, hn::MulAdd(hn::Set(d, w[1]), g, hn::Mul(hn::Set(d, w[2]), b))));
        };
        const auto x = part(m), y = part(m + 3), z = part(m + 6);
        r = hn::MulSub(hn::Set(d, 116.0f), y, hn::Set(d, 16.0f));
        g = hn::Mul(hn::Set(d, 500.0f), hn::Sub(x, y));
        b = hn::Mul(hn::Set(d, 200.0f), hn::Sub(y, z));
    });
}

// `w`: what each channel counts for in luminance.
void LightnessRow(const float* w, ConstEncodedRow pixels, float* lightness, std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRow(d, lightness, count, [=](std::size_t i, auto) HWY_ATTR {
        const auto light = [&](const float* row) HWY_ATTR { return DecodeSrgb(d, LoadSome(d, row, i, count)); };
        const auto y = hn::MulAdd(
            hn::Set(d, w[0]), light(pixels.red),
            hn::MulAdd(hn::Set(d, w[1]), light(pixels.green), hn::Mul(hn::Set(d, w[2]), light(pixels.blue))));
        return hn::MulSub(hn::Set(d, 116.0f), LabCurve(d, y), hn::Set(d, 16.0f));
    });
}

void NearestColourRow(const float* l, const float* a, const float* b, std::span<const colour::Lab> colours,
                      float toneWeight, float* distance, std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRow(d, distance, count, [=](std::size_t i, auto) HWY_ATTR {
        const auto atL = LoadSome(d, l, i, count), atA = LoadSome(d, a, i, count), atB = LoadSome(d, b, i, count);
        auto nearest = hn::Set(d, 1e18f);
        for (const colour::Lab& colour : colours) {
            const auto dl = hn::Mul(hn::Set(d, toneWeight), hn::Sub(atL, hn::Set(d, static_cast<float>(colour.l))));
            const auto da = hn::Sub(atA, hn::Set(d, static_cast<float>(colour.a)));
            const auto db = hn::Sub(atB, hn::Set(d, static_cast<float>(colour.b)));
            nearest = hn::Min(nearest, hn::MulAdd(dl, dl, hn::MulAdd(da, da, hn::Mul(db, db))));
        }
        return hn::Sqrt(nearest);
    });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(LabRow);
HWY_EXPORT(LightnessRow);
HWY_EXPORT(NearestColourRow);

namespace {

struct Weights {
    float m[9];
};

constexpr Weights weights() {
    Weights out{};
    for (std::size_t r = 0; r < 3; ++r) {
        const colour::Vector3& row = colour::xyzFromLinearMatrix[r];
        for (std::size_t c = 0; c < 3; ++c) out.m[r * 3 + c] = static_cast<float>(row[c] / (row[0] + row[1] + row[2]));
    }
    return out;
}
constexpr Weights ofWhite = weights();

}  // namespace

void labRow(EncodedRow pixels, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(LabRow)(ofWhite.m, pixels, count);
}

void lightnessRow(ConstEncodedRow pixels, float* lightness, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(LightnessRow)(ofWhite.m + 3, pixels, lightness, count);
}

void nearestColourRow(const float* l, const float* a, const float* b, std::span<const colour::Lab> colours,
                      float toneWeight, float* distance, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(NearestColourRow)(l, a, b, colours, toneWeight, distance, count);
}

}  // namespace dimhem::kernel
#endif
