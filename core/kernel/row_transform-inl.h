// The loop over a row, and its remainder, written once for every vector function. Included per target.
#if defined(DIMHEM_ROW_TRANSFORM_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef DIMHEM_ROW_TRANSFORM_INL
#undef DIMHEM_ROW_TRANSFORM_INL
#else
#define DIMHEM_ROW_TRANSFORM_INL
#endif

#include <hwy/highway.h>

#include <cstddef>
#include <cstring>

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// Calls f(i, r, g, b) with the float vectors at offset i of three rows, and writes back what f made of them. The
// remainder goes through a small buffer; its spare lanes hold zero and are thrown away. f may read other rows of
// the same length through LoadSome. It is called in one place, so that it becomes part of the loop.
template <class D, class Func>
HWY_INLINE void TransformRgb(D d, float* red, float* green, float* blue, std::size_t count, Func f) {
    const std::size_t lanes = hn::Lanes(d);
    HWY_ALIGN float buffer[3][hn::MaxLanes(d)] = {};
    for (std::size_t i = 0; i < count; i += lanes) {
        float *atR = red + i, *atG = green + i, *atB = blue + i;
        const bool whole = i + lanes <= count;
        const std::size_t rest = (count - i) * sizeof(float);
        if (HWY_UNLIKELY(!whole)) {
            std::memcpy(buffer[0], atR, rest);
            std::memcpy(buffer[1], atG, rest);
            std::memcpy(buffer[2], atB, rest);
            atR = buffer[0];
            atG = buffer[1];
            atB = buffer[2];
        }
        auto r = hn::LoadU(d, atR), g = hn::LoadU(d, atG), b = hn::LoadU(d, atB);
        f(i, r, g, b);
        hn::StoreU(r, d, atR);
        hn::StoreU(g, d, atG);
        hn::StoreU(b, d, atB);
        if (HWY_UNLIKELY(!whole)) {
            std::memcpy(red + i, buffer[0], rest);
            std::memcpy(green + i, buffer[1], rest);
            std::memcpy(blue + i, buffer[2], rest);
        }
    }
}

// One row.
template <class D, class T, class Func>
HWY_INLINE void TransformRow(D d, T* row, std::size_t count, Func f) {
    const std::size_t lanes = hn::Lanes(d);
    HWY_ALIGN T buffer[hn::MaxLanes(d)] = {};
    for (std::size_t i = 0; i < count; i += lanes) {
        T* at = row + i;
        const bool whole = i + lanes <= count;
        if (HWY_UNLIKELY(!whole)) {
            std::memcpy(buffer, at, (count - i) * sizeof(T));
            at = buffer;
        }
        hn::StoreU(f(i, hn::LoadU(d, at)), d, at);
        if (HWY_UNLIKELY(!whole)) std::memcpy(row + i, buffer, (count - i) * sizeof(T));
    }
}

// Up to a vector of another row of `count` values, from offset i; lanes past its end are zero.
template <class D, class T>
HWY_INLINE hn::Vec<D> LoadSome(D d, const T* row, std::size_t i, std::size_t count) {
    if (i + hn::Lanes(d) <= count) return hn::LoadU(d, row + i);
    HWY_ALIGN T buffer[hn::MaxLanes(d)] = {};
    std::memcpy(buffer, row + i, (count - i) * sizeof(T));
    return hn::Load(d, buffer);
}

// The other way: lanes past the row's end are left out.
template <class D, class T>
HWY_INLINE void StoreSome(hn::Vec<D> v, D d, T* row, std::size_t i, std::size_t count) {
    if (i + hn::Lanes(d) <= count) return hn::StoreU(v, d, row + i);
    HWY_ALIGN T buffer[hn::MaxLanes(d)];
    hn::Store(v, d, buffer);
    std::memcpy(row + i, buffer, (count - i) * sizeof(T));
}

// 16-bit coverage as float 0..1, in the lanes of d.
template <class D>
HWY_INLINE hn::Vec<D> LoadCoverage(D d, const std::uint16_t* row, std::size_t i, std::size_t count) {
    const hn::Rebind<std::uint16_t, D> d16;
    const hn::Rebind<std::int32_t, D> d32;
    const auto wide = hn::PromoteTo(d32, LoadSome(d16, row, i, count));
    return hn::Mul(hn::ConvertTo(d, wide), hn::Set(d, 1.0f / 65535.0f));
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#endif
