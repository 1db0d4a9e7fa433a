// What several adjustments need of a pixel, on vectors of float. Included per target.
#if defined(DIMHEM_PIXEL_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef DIMHEM_PIXEL_INL
#undef DIMHEM_PIXEL_INL
#else
#define DIMHEM_PIXEL_INL
#endif

#include <hwy/highway.h>

#include "core/colour/srgb.h"
#include "core/kernel/cube_root-inl.h"
#include "core/kernel/srgb-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
using kernel::HWY_NAMESPACE::DecodeSrgb;
using kernel::HWY_NAMESPACE::EncodeSrgb;

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Held(D d, V v) {
    return hn::Min(hn::Max(v, hn::Zero(d)), hn::Set(d, 1.0f));
}

// The curve of CIELAB and its inverse (CIE 15).
template <class D, class V = hn::Vec<D>>
HWY_INLINE V LabCurve(D d, V t) {
    const V line = hn::MulAdd(t, hn::Set(d, 841.0f / 108), hn::Set(d, 16.0f / 116));
    return hn::IfThenElse(hn::Gt(t, hn::Set(d, 216.0f / 24389)), kernel::HWY_NAMESPACE::CubeRoot(d, t), line);
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V LabCurveInverse(D d, V f) {
    const V line = hn::Mul(hn::Sub(f, hn::Set(d, 16.0f / 116)), hn::Set(d, 108.0f / 841));
    return hn::IfThenElse(hn::Gt(f, hn::Set(d, 24.0f / 116)), hn::Mul(f, hn::Mul(f, f)), line);
}

// Y of linear sRGB (IEC 61966-2-1).
template <class D, class V = hn::Vec<D>>
HWY_INLINE V Luminance(D d, V r, V g, V b) {
    constexpr auto red = static_cast<float>(colour::lumaR), green = static_cast<float>(colour::lumaG),
                   blue = static_cast<float>(colour::lumaB);
    return hn::MulAdd(hn::Set(d, red), r, hn::MulAdd(hn::Set(d, green), g, hn::Mul(hn::Set(d, blue), b)));
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V LuminanceOfEncoded(D d, V r, V g, V b) {
    return Luminance(d, DecodeSrgb(d, r), DecodeSrgb(d, g), DecodeSrgb(d, b));
}

// How much a pixel belongs to the dark, the middle and the light tones: Bernstein weights of a tone 0..1, smooth and
// summing to one. Below 0 and above 1 as at the ends.
template <class V>
struct Tones {
    V dark, middle, light;
};

template <class D, class V = hn::Vec<D>>
HWY_INLINE Tones<V> TonesOf(D d, V tone) {
    const V t = Held(d, tone), rest = hn::Sub(hn::Set(d, 1.0f), t), tr = hn::Mul(t, rest);
    return {hn::Mul(rest, rest), hn::Add(tr, tr), hn::Mul(t, t)};
}

// L*/100 (CIE 15) of the luminance Y.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V ToneOf(D d, V y) {
    constexpr float linearUpTo = 216.0f / 24389, slope = 24389.0f / 27 / 100;
    const V root = hn::MulAdd(hn::Set(d, 1.16f), kernel::HWY_NAMESPACE::CubeRoot(d, y), hn::Set(d, -0.16f));
    return hn::IfThenElse(hn::Le(y, hn::Set(d, linearUpTo)), hn::Mul(y, hn::Set(d, slope)), root);
}

// The luminance up to which scaling a colour gives way to adding grey: L* 15.5.
constexpr float darkLuminance = 0.02f;

// Linear colours of the luminance `is` brought to `wanted`: by scaling, which keeps the chromaticity, and, in the dark,
// less and less by that and more and more by adding grey; below black by grey alone. So small differences in the dark
// stay small, whatever is made of them; the luminance comes out exact, and where it is the wanted one nothing changes.
template <class D, class V = hn::Vec<D>>
HWY_INLINE void ScaleOrAdd(D d, V is, V wanted, V& r, V& g, V& b) {
    const V zero = hn::Zero(d), dark = hn::Set(d, darkLuminance);
    const V t = hn::Min(hn::Max(is, zero), dark);
    // Smoothstep of t / dark, over the luminance.
    const V steps = hn::Mul(hn::Mul(t, t), hn::NegMulAdd(t, hn::Set(d, 2 / darkLuminance), hn::Set(d, 3.0f)));
    const V share =
        hn::Div(hn::Mul(steps, hn::Set(d, 1 / (darkLuminance * darkLuminance))), hn::Max(is, hn::Set(d, 1e-12f)));
    const V k = hn::MulAdd(hn::Sub(hn::Max(wanted, zero), is), share, hn::Set(d, 1.0f));
    const V grey = hn::NegMulAdd(k, is, wanted);
    r = hn::MulAdd(r, k, grey);
    g = hn::MulAdd(g, k, grey);
    b = hn::MulAdd(b, k, grey);
}

// Gives an encoded colour the luminance y.
template <class D, class V = hn::Vec<D>>
HWY_INLINE void BringToLuminance(D d, V y, V& r, V& g, V& b) {
    V lr = DecodeSrgb(d, r), lg = DecodeSrgb(d, g), lb = DecodeSrgb(d, b);
    ScaleOrAdd(d, Luminance(d, lr, lg, lb), y, lr, lg, lb);
    r = EncodeSrgb(d, lr);
    g = EncodeSrgb(d, lg);
    b = EncodeSrgb(d, lb);
}

// Changes the tone of linear colours and keeps their chromaticity, in the dark less and less: `tone` of the luminance,
// linear in and out.
template <class D, class V, class Tone>
HWY_INLINE void ToneKeepingColour(D d, Tone tone, V& r, V& g, V& b) {
    const V y = Luminance(d, r, g, b);
    ScaleOrAdd(d, y, tone(y), r, g, b);
}

// Hue of an encoded colour in degrees 0..360 and its chroma, max - min channel (CSS Color Module Level 4, HSL).
template <class V>
struct HueChroma {
    V hue, chroma, most, least;
};

template <class D, class V = hn::Vec<D>>
HWY_INLINE HueChroma<V> HueOf(D d, V r, V g, V b) {
    const V most = hn::Max(r, hn::Max(g, b)), least = hn::Min(r, hn::Min(g, b)), chroma = hn::Sub(most, least);
    const V scale = hn::Div(hn::Set(d, 60.0f), hn::Max(chroma, hn::Set(d, 1e-6f)));
    const V ofRed = hn::Mul(hn::Sub(g, b), scale);
    const V ofGreen = hn::MulAdd(hn::Sub(b, r), scale, hn::Set(d, 120.0f));
    const V ofBlue = hn::MulAdd(hn::Sub(r, g), scale, hn::Set(d, 240.0f));
    V hue = hn::IfThenElse(hn::Eq(most, r), ofRed, hn::IfThenElse(hn::Eq(most, g), ofGreen, ofBlue));
    hue = hn::IfThenElse(hn::Lt(hue, hn::Zero(d)), hn::Add(hue, hn::Set(d, 360.0f)), hue);
    return {hue, chroma, most, least};
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#endif
