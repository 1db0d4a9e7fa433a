// The cube root of vectors of float, odd-symmetric, within 1e-6 of the value. Included per target.
#if defined(DIMHEM_CUBE_ROOT_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef DIMHEM_CUBE_ROOT_INL
#undef DIMHEM_CUBE_ROOT_INL
#else
#define DIMHEM_CUBE_ROOT_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// From a third of the exponent's bits, then two steps of Halley, each of which triples the digits.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V CubeRoot(D d, V v) {
    const hn::Rebind<std::int32_t, D> di;
    const V x = hn::Max(hn::Abs(v), hn::Set(d, 1e-12f));
    const auto bits = hn::ConvertTo(d, hn::BitCast(di, x));
    V r = hn::BitCast(d, hn::ConvertTo(di, hn::MulAdd(bits, hn::Set(d, 1.0f / 3), hn::Set(d, 709921077.0f))));
    for (int i = 0; i < 2; ++i) {
        const V cube = hn::Mul(hn::Mul(r, r), r);
        r = hn::Mul(r, hn::Div(hn::MulAdd(hn::Set(d, 2.0f), x, cube), hn::MulAdd(hn::Set(d, 2.0f), cube, x)));
    }
    return hn::CopySign(hn::IfThenElseZero(hn::Gt(hn::Abs(v), hn::Set(d, 1e-12f)), r), v);
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#endif
