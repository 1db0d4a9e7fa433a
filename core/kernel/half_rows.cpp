#include "core/kernel/half_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/half_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

// Rounded to what a half can hold, to nearest, ties to even (IEEE 754). Where the processor does not convert by itself
// the library cuts off, so the value is rounded before.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V RoundedToHalf(D d, V v) {
#if HWY_TARGET <= HWY_AVX2
    (void)d;
    return v;
#else
    const hn::RebindToUnsigned<D> du;
    constexpr int droppedBits = 13;
    const auto bits = hn::BitCast(du, v);
    const auto odd = hn::And(hn::ShiftRight<droppedBits>(bits), hn::Set(du, 1));
    return hn::BitCast(d, hn::Add(bits, hn::Add(odd, hn::Set(du, (1u << (droppedBits - 1)) - 1))));
#endif
}

// hwy::float16_t and std::uint16_t have the same size; its bits are what we keep.
void HalfFromFloat(const float* from, std::uint16_t* to, std::size_t count) {
    const hn::ScalableTag<float> d;
    const hn::Rebind<hwy::float16_t, decltype(d)> d16;
    const hn::Rebind<std::uint16_t, decltype(d)> du16;
    for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
        const auto bits = hn::BitCast(du16, hn::DemoteTo(d16, RoundedToHalf(d, LoadSome(d, from, i, count))));
        if (i + hn::Lanes(d) <= count) {
            hn::StoreU(bits, du16, to + i);
        } else {
            HWY_ALIGN std::uint16_t buffer[hn::MaxLanes(du16)];
            hn::Store(bits, du16, buffer);
            std::memcpy(to + i, buffer, (count - i) * sizeof(std::uint16_t));
        }
    }
}

void FloatFromHalf(const std::uint16_t* from, float* to, std::size_t count) {
    const hn::ScalableTag<float> d;
    const hn::Rebind<hwy::float16_t, decltype(d)> d16;
    const hn::Rebind<std::uint16_t, decltype(d)> du16;
    for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
        const auto v = hn::PromoteTo(d, hn::BitCast(d16, LoadSome(du16, from, i, count)));
        if (i + hn::Lanes(d) <= count) {
            hn::StoreU(v, d, to + i);
        } else {
            HWY_ALIGN float buffer[hn::MaxLanes(d)];
            hn::Store(v, d, buffer);
            std::memcpy(to + i, buffer, (count - i) * sizeof(float));
        }
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(HalfFromFloat);
HWY_EXPORT(FloatFromHalf);

void halfFromFloat(const float* from, std::uint16_t* to, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(HalfFromFloat)(from, to, count);
}

void floatFromHalf(const std::uint16_t* from, float* to, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(FloatFromHalf)(from, to, count);
}

}  // namespace dimhem::kernel
#endif
