#include "core/kernel/srgb_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/srgb_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/row_transform-inl.h"
#include "core/kernel/srgb-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

void EncodeRow(float* row, std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRow(d, row, count, [d](std::size_t, auto v) HWY_ATTR { return EncodeSrgb(d, v); });
}

void DecodeRow(float* row, std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRow(d, row, count, [d](std::size_t, auto v) HWY_ATTR { return DecodeSrgb(d, v); });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(EncodeRow);
HWY_EXPORT(DecodeRow);

void encodeRow(float* row, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(EncodeRow)(row, count);
}

void decodeRow(float* row, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(DecodeRow)(row, count);
}

LinearRow decoded(EncodedRow row, std::size_t count) {
    for (float* channel : {row.red, row.green, row.blue}) decodeRow(channel, count);
    return {row.red, row.green, row.blue};
}

EncodedRow encoded(LinearRow row, std::size_t count) {
    for (float* channel : {row.red, row.green, row.blue}) encodeRow(channel, count);
    return {row.red, row.green, row.blue};
}

image::LinearPlanes decoded(image::EncodedPlanes planes) {
    image::LinearPlanes out;
    for (int y = 0; y < planes.size().height; ++y)
        decoded(rowOf(planes, y), static_cast<std::size_t>(planes.size().width));
    out.red = std::move(planes.red);
    out.green = std::move(planes.green);
    out.blue = std::move(planes.blue);
    return out;
}

image::EncodedPlanes encoded(image::LinearPlanes planes) {
    image::EncodedPlanes out;
    for (int y = 0; y < planes.size().height; ++y)
        encoded(rowOf(planes, y), static_cast<std::size_t>(planes.size().width));
    out.red = std::move(planes.red);
    out.green = std::move(planes.green);
    out.blue = std::move(planes.blue);
    return out;
}

}  // namespace dimhem::kernel
#endif
