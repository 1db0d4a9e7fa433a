#include "core/kernel/grain_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/grain_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/hash-inl.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

void WhiteNoiseRows(float* const to[3], std::size_t count, int x, int y, std::uint32_t seed) {
    const hn::ScalableTag<float> d;
    const hn::RebindToUnsigned<decltype(d)> du;
    const hn::RebindToSigned<decltype(d)> di;
    // Four bytes, each even over 0..255: their sum has the variance 4 (256^2 - 1) / 12.
    constexpr float scale = 0.0067659f;
    const auto normal = [&](auto bits) HWY_ATTR {
        const auto byte = [&](auto v) HWY_ATTR { return hn::And(v, hn::Set(du, 0xffu)); };
        const auto sum = hn::Add(hn::Add(byte(bits), byte(hn::ShiftRight<8>(bits))),
                                 hn::Add(byte(hn::ShiftRight<16>(bits)), hn::ShiftRight<24>(bits)));
        return hn::Mul(hn::Sub(hn::ConvertTo(d, hn::BitCast(di, sum)), hn::Set(d, 510.0f)), hn::Set(d, scale));
    };
    TransformRgb(d, to[0], to[1], to[2], count, [&](std::size_t i, auto& a, auto& b, auto& c) HWY_ATTR {
        const auto h = Hashed(du, static_cast<std::uint32_t>(x) + static_cast<std::uint32_t>(i),
                              static_cast<std::uint32_t>(y), seed);
        a = normal(h.x);
        b = normal(h.y);
        c = normal(h.z);
    });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(WhiteNoiseRows);

void whiteNoiseRows(float* const to[3], std::size_t count, int x, int y, std::uint32_t seed) {
    HWY_DYNAMIC_DISPATCH(WhiteNoiseRows)(to, count, x, y, seed);
}

}  // namespace dimhem::kernel
#endif
