// The sRGB curve (IEC 61966-2-1) on vectors of float. Included per target.
//
//   domain: every finite value; odd-symmetric below 0
//   encode: rational 4/4 in sqrt(v) on [0.0031308, 1], minimax; the power law through log and exp above 1
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
    const V one = hn::Set(d, 1.0f);
    const V v = hn::Abs(linear);
    const V s = hn::Sqrt(hn::Min(v, one));
    V p = hn::MulAdd(s, hn::Set(d, 73.1925048828125f), hn::Set(d, 146.75949096679688f));
    p = hn::MulAdd(p, s, hn::Set(d, 38.86421585083008f));
    p = hn::MulAdd(p, s, hn::Set(d, 0.5263104438781738f));
    p = hn::MulAdd(p, s, hn::Set(d, -0.05112071335315704f));
    V q = hn::MulAdd(s, hn::Set(d, 2.4137120246887207f), hn::Set(d, 92.16549682617188f));
    q = hn::MulAdd(q, s, hn::Set(d, 133.48109436035156f));
    q = hn::MulAdd(q, s, hn::Set(d, 30.231130599975586f));
    q = hn::MulAdd(q, s, one);
    const V dark = hn::Mul(v, hn::Set(d, 12.92f));
    V encoded = hn::IfThenElse(hn::Le(v, hn::Set(d, 0.0031308f)), dark, hn::Div(p, q));
    const auto above = hn::Gt(v, one);
    if (HWY_UNLIKELY(!hn::AllFalse(d, above))) {
        const V power = hn::MulAdd(PowerAboveOne(d, v, 1 / 2.4f), hn::Set(d, 1.055f), hn::Set(d, -0.055f));
        encoded = hn::IfThenElse(above, power, encoded);
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
