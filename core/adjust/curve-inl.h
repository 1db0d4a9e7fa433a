// Looking up a CurveTable with vectors of float. Included per target.
#if defined(DIMHEM_CURVE_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef DIMHEM_CURVE_INL
#undef DIMHEM_CURVE_INL
#else
#define DIMHEM_CURVE_INL
#endif

#include <hwy/highway.h>

#include "core/adjust/curve_table.h"
#include "core/kernel/table16-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

using kernel::HWY_NAMESPACE::Take16;

template <class D, class V = hn::Vec<D>>
HWY_INLINE V CurveAt(D d, V x, const CurveTable& table) {
    const hn::RebindToSigned<D> di;
    // The last piece that begins at or before x, by halving.
    auto index = hn::IfThenElseZero(hn::RebindMask(di, hn::Ge(x, hn::Set(d, table.from[8]))), hn::Set(di, 8));
    for (const int step : {4, 2, 1}) {
        const auto next = hn::Add(index, hn::Set(di, step));
        const auto past = hn::RebindMask(di, hn::Ge(x, Take16(d, table.from, next)));
        index = hn::IfThenElse(past, next, index);
    }
    const V u = hn::Sub(x, Take16(d, table.from, index));
    V slope = hn::MulAdd(u, Take16(d, table.c3, index), Take16(d, table.c2, index));
    slope = hn::MulAdd(u, slope, Take16(d, table.c1, index));
    slope = hn::IfThenElse(hn::Lt(u, hn::Zero(d)), hn::Set(d, table.slopeBefore), slope);
    return hn::MulAdd(u, slope, Take16(d, table.c0, index));
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#endif
