#include "core/kernel/oklab_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/oklab_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "core/kernel/cube_root-inl.h"
#include "core/kernel/row_transform-inl.h"
#include "core/kernel/srgb-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Weighted(D d, V x, V y, V z, float wx, float wy, float wz) {
    return hn::MulAdd(hn::Set(d, wx), x, hn::MulAdd(hn::Set(d, wy), y, hn::Mul(hn::Set(d, wz), z)));
}

void OklabRow(EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRgb(d, pixels.red, pixels.green, pixels.blue, count, [d](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
        r = DecodeSrgb(d, r);
        g = DecodeSrgb(d, g);
        b = DecodeSrgb(d, b);
        const auto l = CubeRoot(d, Weighted(d, r, g, b, 0.4122214708f, 0.5363325363f, 0.0514459929f));
        const auto m = CubeRoot(d, Weighted(d, r, g, b, 0.2119034982f, 0.6806995451f, 0.1073969566f));
        const auto s = CubeRoot(d, Weighted(d, r, g, b, 0.0883024619f, 0.2817188376f, 0.6299787005f));
        r = Weighted(d, l, m, s, 0.2104542553f, 0.7936177850f, -0.0040720468f);
        g = Weighted(d, l, m, s, 1.9779984951f, -2.4285922050f, 0.4505937099f);
        b = Weighted(d, l, m, s, 0.0259040371f, 0.7827717662f, -0.8086757660f);
    });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(OklabRow);

void oklabRow(EncodedRow pixels, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(OklabRow)(pixels, count);
}

}  // namespace dimhem::kernel
#endif
