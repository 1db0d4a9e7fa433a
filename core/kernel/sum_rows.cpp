#include "core/kernel/sum_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/sum_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

void SumOf(const float* a, const float* b, float* to, std::size_t count) {
    const hn::ScalableTag<float> d;
    const std::size_t lanes = hn::Lanes(d);
    std::size_t i = 0;
    for (; i + lanes <= count; i += lanes) hn::StoreU(hn::Add(hn::LoadU(d, a + i), hn::LoadU(d, b + i)), d, to + i);
    for (; i < count; ++i) to[i] = a[i] + b[i];
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(SumOf);

void sumOf(const float* a, const float* b, float* to, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(SumOf)(a, b, to, count);
}

void addTo(const float* from, float* to, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(SumOf)(to, from, to, count);
}

}  // namespace dimhem::kernel
#endif
