#include "core/kernel/dither_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/dither_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/hash-inl.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

void AddDither(EncodedRow pixels, ConstEncodedRow unchanged, std::size_t count, int x0, int y, float step) {
    const hn::ScalableTag<float> d;
    const hn::RebindToUnsigned<decltype(d)> du;
    const hn::RebindToSigned<decltype(d)> di;
    // Two halves of 16 bits, each even over 0..1.
    const auto triangular = [&](auto bits) HWY_ATTR {
        const auto whole = [&](auto half) HWY_ATTR { return hn::ConvertTo(d, hn::BitCast(di, half)); };
        const auto sum = hn::Add(whole(hn::And(bits, hn::Set(du, 0xffffu))), whole(hn::ShiftRight<16>(bits)));
        return hn::Mul(hn::MulAdd(sum, hn::Set(d, 1.0f / 65536), hn::Set(d, -1 + 1.0f / 65536)), hn::Set(d, step));
    };
    TransformRgb(d, pixels.red, pixels.green, pixels.blue, count,
                 [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
                     const auto h = Hashed(du, static_cast<std::uint32_t>(x0) + static_cast<std::uint32_t>(i),
                                           static_cast<std::uint32_t>(y), 1);
                     const auto same = hn::And(hn::Eq(r, LoadSome(d, unchanged.red, i, count)),
                                               hn::And(hn::Eq(g, LoadSome(d, unchanged.green, i, count)),
                                                       hn::Eq(b, LoadSome(d, unchanged.blue, i, count))));
                     r = hn::IfThenElse(same, r, hn::Add(r, triangular(h.x)));
                     g = hn::IfThenElse(same, g, hn::Add(g, triangular(h.y)));
                     b = hn::IfThenElse(same, b, hn::Add(b, triangular(h.z)));
                 });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(AddDither);

void addDither(EncodedRow pixels, ConstEncodedRow unchanged, std::size_t count, int x, int y, float step) {
    HWY_DYNAMIC_DISPATCH(AddDither)(pixels, unchanged, count, x, y, step);
}

}  // namespace dimhem::kernel
#endif
