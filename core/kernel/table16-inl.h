// Sixteen floats as a table for vectors: held in registers where these are wide enough. Included per target.
#if defined(DIMHEM_TABLE16_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef DIMHEM_TABLE16_INL
#undef DIMHEM_TABLE16_INL
#else
#define DIMHEM_TABLE16_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// values[index], indices 0..15; `values` aligned to 64 bytes.
template <class D, class VI>
HWY_INLINE hn::Vec<D> Take16(D d, const float* values, VI index) {
    if constexpr (hn::MaxLanes(D()) == 16) {
        return hn::TableLookupLanes(hn::Load(d, values), hn::IndicesFromVec(d, index));
    } else if constexpr (hn::MaxLanes(D()) == 8) {
        const hn::RebindToSigned<D> di;
        const auto within = hn::IndicesFromVec(d, hn::And(index, hn::Set(di, 7)));
        const auto low = hn::TableLookupLanes(hn::Load(d, values), within);
        const auto high = hn::TableLookupLanes(hn::Load(d, values + 8), within);
        return hn::IfThenElse(hn::RebindMask(d, hn::Gt(index, hn::Set(di, 7))), high, low);
    } else {
        return hn::GatherIndex(d, values, index);
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#endif
