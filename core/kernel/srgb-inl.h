// The sRGB curve (IEC 61966-2-1) on vectors of float. Included per target.
//
//   domain: every finite value; odd-symmetric below 0
//   power:  v = m 2^e, 1 <= m < 2: a table over 16 values of e times a polynomial of degree 5 in m, minimax of the
//           relative error (1.2e-6 encoding, 2.5e-7 decoding), which is the same at both ends, so that octaves meet;
//           through log and exp where e goes past the table (linear 128, encoded 4300)
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

// A positive number as m 2^e, 1 <= m < 2, e from the least on in 16 octaves: m, and what a table has for e.
template <class V>
struct Octave {
    V m, scale;
};

template <int least, class D, class V = hn::Vec<D>>
HWY_INLINE Octave<V> OctaveOf(D d, V v, const float (&scales)[16]) {
    const hn::RebindToSigned<D> di;
    const auto bits = hn::BitCast(di, v);
    const auto octave = hn::Sub(hn::ShiftRight<23>(bits), hn::Set(di, 127 + least));
    const auto within = hn::Min(hn::Max(octave, hn::Zero(di)), hn::Set(di, 15));
    const V m = hn::BitCast(d, hn::Or(hn::And(bits, hn::Set(di, 0x7fffff)), hn::Set(di, 0x3f800000)));
    return {m, Take16(d, scales, within)};
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V EncodeSrgb(D d, V linear) {
    // 1.055 * 2^(e / 2.4)
    alignas(64) static constexpr float scales[16] = {
        0.0784133441f, 0.104669257f, 0.139716696f, 0.186499414f, 0.24894685f, 0.332304177f, 0.443572859f, 0.59209873f,
        0.790356983f,  1.055f,       1.40825605f,  1.8797963f,   2.50922701f, 3.34941622f,  4.47093426f,  5.96798123f};
    constexpr float beyond = 128;  // 2^7
    const V v = hn::Abs(linear);
    const auto octave = OctaveOf<-9>(d, v, scales);
    const V m = octave.m;
    V p = hn::MulAdd(m, hn::Set(d, 0.005435373168438673f), hn::Set(d, -0.05141701549291611f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.2085677832365036f));
    p = hn::MulAdd(p, m, hn::Set(d, -0.4917301535606384f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.9528148770332336f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.37633031606674194f));
    const V power = hn::MulAdd(p, octave.scale, hn::Set(d, -0.055f));
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
    // 2^(2.4 e)
    alignas(64) static constexpr float scales[16] = {0.00128858194f, 0.00680117628f, 0.0358968236f, 0.189464571f,
                                                     1.0f,           5.27803164f,    27.857618f,    147.033389f,
                                                     776.046882f,    4096.0f,        21618.8176f,   114104.803f,
                                                     602248.763f,    3178688.03f,    16777216.0f,   88550676.9f};
    constexpr float beyond = 4096;  // 2^12
    const V v = hn::Abs(encoded);
    const V x = hn::MulAdd(v, hn::Set(d, 1 / 1.055f), hn::Set(d, 0.055f / 1.055f));
    const auto octave = OctaveOf<-4>(d, x, scales);
    const V m = octave.m;
    V p = hn::MulAdd(m, hn::Set(d, 0.004195126239210367f), hn::Set(d, -0.04942219704389572f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.3776635229587555f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.8019745945930481f));
    p = hn::MulAdd(p, m, hn::Set(d, -0.16025179624557495f));
    p = hn::MulAdd(p, m, hn::Set(d, 0.025840964168310165f));
    const V dark = hn::Mul(v, hn::Set(d, 1 / 12.92f));
    V linear = hn::IfThenElse(hn::Le(v, hn::Set(d, 0.04045f)), dark, hn::Mul(p, octave.scale));
    const auto above = hn::Ge(x, hn::Set(d, beyond));
    if (HWY_UNLIKELY(!hn::AllFalse(d, above))) linear = hn::IfThenElse(above, PowerAboveOne(d, x, 2.4f), linear);
    return hn::CopySign(linear, encoded);
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#endif
