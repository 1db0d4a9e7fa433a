#include "core/kernel/display_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/display_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

void DisplayRow(ConstEncodedRow picture, std::uint32_t* pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const hn::ScalableTag<std::uint32_t> du;
    const hn::ScalableTag<std::int32_t> di;
    TransformRow(du, pixels, count, [&](std::size_t i, auto) HWY_ATTR {
        const auto channel = [&](const float* row) HWY_ATTR {
            const auto v = hn::Mul(LoadSome(d, row, i, count), hn::Set(d, 255.0f));
            const auto clipped = hn::Min(hn::Max(v, hn::Zero(d)), hn::Set(d, 255.0f));
            return hn::BitCast(du, hn::ConvertTo(di, hn::Add(clipped, hn::Set(d, 0.5f))));
        };
        const auto red = hn::ShiftLeft<16>(channel(picture.red));
        const auto green = hn::ShiftLeft<8>(channel(picture.green));
        return hn::Or(hn::Or(red, green), hn::Or(channel(picture.blue), hn::Set(du, 0xff000000u)));
    });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(DisplayRow);

void displayRow(ConstEncodedRow picture, std::uint32_t* pixels, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(DisplayRow)(picture, pixels, count);
}

}  // namespace dimhem::kernel
#endif
