#include "core/kernel/sample_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/sample_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
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
    const hn::CappedTag<float, 16 / sizeof(T)> d;  // vectors of 16-bit samples hold eight
    const hn::Rebind<T, decltype(d)> dt;
    const hn::RebindToSigned<decltype(d)> di;
    constexpr auto most = static_cast<float>(std::numeric_limits<T>::max());
    for (std::size_t i = 0; i < count; i += hn::Lanes(d))
        hn::StoreU(Share(d, hn::ConvertTo(d, hn::PromoteTo(di, hn::LoadU(dt, samples + i))), most), d, to + i);
}

// Sixteen pixels' samples of one channel, wherever vectors of float are narrower by way of memory.
template <class DT, class VT = hn::Vec<DT>>
HWY_INLINE void StorePart(DT dt, VT samples, float* to) {
    using T = hn::TFromD<DT>;
    const hn::ScalableTag<float> d;
    constexpr auto most = static_cast<float>(std::numeric_limits<T>::max());
    if constexpr (hn::MaxLanes(DT()) == hn::MaxLanes(hn::ScalableTag<float>())) {
        const hn::RebindToSigned<decltype(d)> di;
        hn::StoreU(Share(d, hn::ConvertTo(d, hn::PromoteTo(di, samples)), most), d, to);
    } else {
        HWY_ALIGN T buffer[hn::MaxLanes(dt)];
        hn::Store(samples, dt, buffer);
        PlaneFrom(buffer, to, hn::Lanes(dt));
    }
}

template <class T>
void PlanesFromSamples(const T* from, std::size_t channels, float* const to[3], std::size_t count) {
    const hn::CappedTag<T, 16 / sizeof(T)> dt;
    const std::size_t lanes = hn::Lanes(dt);
    std::size_t x = 0;
    for (; x + lanes <= count; x += lanes) {
        auto r = hn::Zero(dt), g = r, b = r, alpha = r;
        if (channels == 3) {
            hn::LoadInterleaved3(dt, from + x * 3, r, g, b);
        } else {
            hn::LoadInterleaved4(dt, from + x * 4, r, g, b, alpha);
        }
        StorePart(dt, r, to[0] + x);
        StorePart(dt, g, to[1] + x);
        StorePart(dt, b, to[2] + x);
    }
    constexpr auto most = static_cast<float>(std::numeric_limits<T>::max());
    for (; x < count; ++x) {
        for (std::size_t c = 0; c < 3; ++c) to[c][x] = static_cast<float>(from[x * channels + c]) / most;
    }
}

template <class D>
HWY_INLINE hn::Vec<hn::RebindToSigned<D>> Rounded(D d, const float* from, float most) {
    const auto held = hn::Min(hn::Max(hn::LoadU(d, from), hn::Zero(d)), hn::Set(d, 1.0f));
    return hn::ConvertTo(hn::RebindToSigned<D>(), hn::Add(hn::Mul(held, hn::Set(d, most)), hn::Set(d, 0.5f)));
}

template <class T>
void SamplesFromPlanes(const float* const from[3], T* to, std::size_t count) {
    const hn::CappedTag<T, 16 / sizeof(T)> dt;
    const hn::CappedTag<float, 16 / sizeof(T)> d;
    const hn::Rebind<T, decltype(d)> part;
    constexpr auto most = static_cast<float>(std::numeric_limits<T>::max());
    const std::size_t lanes = hn::Lanes(dt);
    HWY_ALIGN T planes[3][hn::MaxLanes(dt)];
    std::size_t x = 0;
    for (; x + lanes <= count; x += lanes) {
        for (std::size_t c = 0; c < 3; ++c) {
            for (std::size_t i = 0; i < lanes; i += hn::Lanes(d))
                hn::StoreU(hn::DemoteTo(part, Rounded(d, from[c] + x + i, most)), part, planes[c] + i);
        }
        hn::StoreInterleaved3(hn::Load(dt, planes[0]), hn::Load(dt, planes[1]), hn::Load(dt, planes[2]), dt,
                              to + 3 * x);
    }
    for (; x < count; ++x) {
        for (std::size_t c = 0; c < 3; ++c) {
            const float v = from[c][x], held = v > 0 ? std::min(v, 1.0f) : 0.0f;
            to[3 * x + c] = static_cast<T>(held * most + 0.5f);
        }
    }
}

void To8(const float* const from[3], std::uint8_t* to, std::size_t count) {
    SamplesFromPlanes(from, to, count);
}

void To16(const float* const from[3], std::uint16_t* to, std::size_t count) {
    SamplesFromPlanes(from, to, count);
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
HWY_EXPORT(To8);
HWY_EXPORT(To16);

void planesFromSamples(const std::uint8_t* from, std::size_t channels, float* const to[3], std::size_t count) {
    HWY_DYNAMIC_DISPATCH(PlanesFrom8)(from, channels, to, count);
}

void planesFromSamples(const std::uint16_t* from, std::size_t channels, float* const to[3], std::size_t count) {
    HWY_DYNAMIC_DISPATCH(PlanesFrom16)(from, channels, to, count);
}

void samplesFromPlanes(const float* const from[3], std::uint8_t* to, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(To8)(from, to, count);
}

void samplesFromPlanes(const float* const from[3], std::uint16_t* to, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(To16)(from, to, count);
}

}  // namespace dimhem::kernel
#endif
