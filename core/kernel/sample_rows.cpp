#include "core/kernel/sample_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/sample_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <limits>

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// v / most, rounded as division does: a product and what is left of it, where that is exact.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V Share(D d, V v, float most) {
#if HWY_TARGET <= HWY_AVX2
    const V inverse = hn::Set(d, 1 / most), q = hn::Mul(v, inverse);
    return hn::MulAdd(hn::NegMulAdd(q, hn::Set(d, most), v), inverse, q);
#else
    return hn::Div(v, hn::Set(d, most));
#endif
}

template <class T>
HWY_INLINE void PlaneFrom(const T* samples, float* to, std::size_t count) {
    const hn::ScalableTag<float> d;
    const hn::Rebind<T, decltype(d)> dt;
    const hn::RebindToSigned<decltype(d)> di;
    constexpr auto most = static_cast<float>(std::numeric_limits<T>::max());
    for (std::size_t i = 0; i < count; i += hn::Lanes(d))
        hn::StoreU(Share(d, hn::ConvertTo(d, hn::PromoteTo(di, hn::LoadU(dt, samples + i))), most), d, to + i);
}

template <class T>
void PlanesFromSamples(const T* from, std::size_t channels, float* const to[3], std::size_t count) {
    const hn::CappedTag<T, 16 / sizeof(T)> dt;
    constexpr std::size_t atOnce = 16;  // a multiple of what any vector of float holds
    std::size_t x = 0;
    HWY_ALIGN T planes[3][atOnce];
    for (; x + atOnce <= count; x += atOnce) {
        for (std::size_t part = 0; part < atOnce; part += hn::Lanes(dt)) {
            auto r = hn::Zero(dt), g = r, b = r, a = r;
            if (channels == 3) {
                hn::LoadInterleaved3(dt, from + (x + part) * 3, r, g, b);
            } else {
                hn::LoadInterleaved4(dt, from + (x + part) * 4, r, g, b, a);
            }
            hn::StoreU(r, dt, planes[0] + part);
            hn::StoreU(g, dt, planes[1] + part);
            hn::StoreU(b, dt, planes[2] + part);
        }
        for (std::size_t c = 0; c < 3; ++c) PlaneFrom(planes[c], to[c] + x, atOnce);
    }
    constexpr auto most = static_cast<float>(std::numeric_limits<T>::max());
    for (; x < count; ++x) {
        for (std::size_t c = 0; c < 3; ++c) to[c][x] = static_cast<float>(from[x * channels + c]) / most;
    }
}

void PlanesFrom8(const std::uint8_t* from, std::size_t channels, float* const to[3], std::size_t count) {
    PlanesFromSamples(from, channels, to, count);
}

void PlanesFrom16(const std::uint16_t* from, std::size_t channels, float* const to[3], std::size_t count) {
    PlanesFromSamples(from, channels, to, count);
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(PlanesFrom8);
HWY_EXPORT(PlanesFrom16);

void planesFromSamples(const std::uint8_t* from, std::size_t channels, float* const to[3], std::size_t count) {
    HWY_DYNAMIC_DISPATCH(PlanesFrom8)(from, channels, to, count);
}

void planesFromSamples(const std::uint16_t* from, std::size_t channels, float* const to[3], std::size_t count) {
    HWY_DYNAMIC_DISPATCH(PlanesFrom16)(from, channels, to, count);
}

}  // namespace dimhem::kernel
#endif
