// The sRGB curve (IEC 61966-2-1) on vectors of float. Included per target.
//
//   domain: every finite value; odd-symmetric below 0
//   encode: v = m 2^e, 1 <= m < 2: a table over e times a polynomial of degree 5 in m, minimax of the relative error
//           (1.2e-6, equal at both ends, so that octaves meet), for v below 128; through log and exp beyond
//   decode: polynomial of degree 8 on [0.04045, 1], minimax; the power law above 1
//   error:  at most kernel::srgbMaxError of the encoded value, see srgb_rows.h
// A lane's value depends on that lane alone, whatever path its neighbours make the vector take.
#if defined(DIMHEM_SRGB_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef DIMHEM_SRGB_INL
#undef DIMHEM_SRGB_INL
#else
#define DIMHEM_SRGB_INL
#endif

#include <hwy/contrib/math/math-inl.h>
#include <hwy/highway.h>

#include "core/kernel/table16-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// v^exponent for v >= 1; other lanes are of no interest to the caller but must not trap.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V PowerAboveOne(D d, V v, float exponent) {
    const V safe = hn::Max(v, hn::Set(d, 1.0f));
    return hn::Exp(d, hn::Mul(hn::Log(d, safe), hn::Set(d, exponent)));
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V EncodeSrgb(D d, V linear) {
    // 1.055 * 2^(e / 2.4), e = -9 .. 6.
    alignas(64) static constexpr float octaves[16] = {
        0.0784133441f, 0.104669257f, 0.139716696f, 0.186499414f, 0.24894685f, 0.332304177f, 0.443572859f, 0.59209873f,
        0.790356983f,  1.055f,       1.40825605f,  1.8797963f,   2.50922701f, 3.34941622f,  4.47093426f,  5.96798123f};
    constexpr int leastExponent = 127 - 9;
    constexpr float beyond = 128;
    const hn::RebindToSigned<D> di;
    const V v = hn::Abs(linear);
    const auto bits = hn::BitCast(di, v);
    const auto octave = hn::Sub(hn::ShiftRight<23>(bits), hn::Set(di, leastExponent));
    const auto within = hn::Min(hn::Max(octave, hn::Zero(di)), hn::Set(di, 15));
    const V m = hn::BitCast(d, hn::Or(hn::And(bits, hn::Set(di, 0x7fffff)), hn::Set(di, 0x3f800000)));
    V p = hn::MulAdd(m, hn::Set(d, 0.005435373168438673f), hn::Set(d, -0.05141701549291611f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.2085677832365036f));
    p = hn::MulAdd(p, m, hn::Set(d, -0.4917301535606384f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.9528148770332336f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.37633031606674194f));
    const V power = hn::MulAdd(p, Take16(d, octaves, within), hn::Set(d, -0.055f));
    const V dark = hn::Mul(v, hn::Set(d, 12.92f));
    V encoded = hn::IfThenElse(hn::Le(v, hn::Set(d, 0.0031308f)), dark, power);
    const auto above = hn::Ge(v, hn::Set(d, beyond));
    if (HWY_UNLIKELY(!hn::AllFalse(d, above))) {
        const V exact = hn::MulAdd(PowerAboveOne(d, v, 1 / 2.4f), hn::Set(d, 1.055f), hn::Set(d, -0.055f));
        encoded = hn::IfThenElse(above, exact, encoded);
    }
    return hn::CopySign(encoded, linear);
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V DecodeSrgb(D d, V encoded) {
    const V one = hn::Set(d, 1.0f);
    const V v = hn::Abs(encoded);
    const V x = hn::Min(v, one);
    V p = hn::MulAdd(x, hn::Set(d, -0.07823272049427032f), hn::Set(d, 0.3818439841270447f));
    p = hn::MulAdd(p, x, hn::Set(d, -0.8128309845924377f));
    p = hn::MulAdd(p, x, hn::Set(d, 1.017387866973877f));
    p = hn::MulAdd(p, x, hn::Set(d, -0.9003198146820068f));
    p = hn::MulAdd(p, x, hn::Set(d, 0.8718714118003845f));
    p = hn::MulAdd(p, x, hn::Set(d, 0.48403793573379517f));
    p = hn::MulAdd(p, x, hn::Set(d, 0.0353892520070076f));
    p = hn::MulAdd(p, x, hn::Set(d, 0.0008524592267349362f));
    const V dark = hn::Mul(v, hn::Set(d, 1 / 12.92f));
    V linear = hn::IfThenElse(hn::Le(v, hn::Set(d, 0.04045f)), dark, p);
    const auto above = hn::Gt(v, one);
    if (HWY_UNLIKELY(!hn::AllFalse(d, above))) {
        const V base = hn::Mul(hn::Add(v, hn::Set(d, 0.055f)), hn::Set(d, 1 / 1.055f));
        linear = hn::IfThenElse(above, PowerAboveOne(d, base, 2.4f), linear);
    }
    return hn::CopySign(linear, encoded);
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#endif
