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
// the same length through LoadSome.
template <class D, class Func>
HWY_INLINE void TransformRgb(D d, float* red, float* green, float* blue, std::size_t count, Func f) {
    const std::size_t lanes = hn::Lanes(d);
    std::size_t i = 0;
    for (; i + lanes <= count; i += lanes) {
        auto r = hn::LoadU(d, red + i), g = hn::LoadU(d, green + i), b = hn::LoadU(d, blue + i);
        f(i, r, g, b);
        hn::StoreU(r, d, red + i);
        hn::StoreU(g, d, green + i);
        hn::StoreU(b, d, blue + i);
    }
    if (i == count) return;
    const std::size_t rest = (count - i) * sizeof(float);
    HWY_ALIGN float buffer[3][hn::MaxLanes(d)] = {};
    std::memcpy(buffer[0], red + i, rest);
    std::memcpy(buffer[1], green + i, rest);
    std::memcpy(buffer[2], blue + i, rest);
    auto r = hn::Load(d, buffer[0]), g = hn::Load(d, buffer[1]), b = hn::Load(d, buffer[2]);
    f(i, r, g, b);
    hn::Store(r, d, buffer[0]);
    hn::Store(g, d, buffer[1]);
    hn::Store(b, d, buffer[2]);
    std::memcpy(red + i, buffer[0], rest);
    std::memcpy(green + i, buffer[1], rest);
    std::memcpy(blue + i, buffer[2], rest);
}

// One row.
template <class D, class T, class Func>
HWY_INLINE void TransformRow(D d, T* row, std::size_t count, Func f) {
    const std::size_t lanes = hn::Lanes(d);
    std::size_t i = 0;
    for (; i + lanes <= count; i += lanes) hn::StoreU(f(i, hn::LoadU(d, row + i)), d, row + i);
    if (i == count) return;
    HWY_ALIGN T buffer[hn::MaxLanes(d)] = {};
    std::memcpy(buffer, row + i, (count - i) * sizeof(T));
    hn::Store(f(i, hn::Load(d, buffer)), d, buffer);
    std::memcpy(row + i, buffer, (count - i) * sizeof(T));
}

// Up to a vector of another row of `count` values, from offset i; lanes past its end are zero.
template <class D, class T>
HWY_INLINE hn::Vec<D> LoadSome(D d, const T* row, std::size_t i, std::size_t count) {
    if (i + hn::Lanes(d) <= count) return hn::LoadU(d, row + i);
    HWY_ALIGN T buffer[hn::MaxLanes(d)] = {};
    std::memcpy(buffer, row + i, (count - i) * sizeof(T));
    return hn::Load(d, buffer);
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
