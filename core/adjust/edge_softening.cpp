#include "core/adjust/edge_softening.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/edge_softening.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>

#include "core/adjust/guided_base.h"
#include "core/adjust/pixel-inl.h"
#include "core/image/tiles.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

// Towards a base, away from another; without that, from the pixels themselves.
void TowardsBaseRow(float amount, const float* const* to, const float* const* from, kernel::EncodedRow pixels,
                    std::size_t count) {
    const hn::ScalableTag<float> d;
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto luma = Luminance(d, r, g, b);
            const auto line = [&](const float* const* base, std::size_t c) HWY_ATTR {
                const auto at = [&](std::size_t plane)
                                    HWY_ATTR { return kernel::HWY_NAMESPACE::LoadSome(d, base[plane], i, count); };
                return hn::MulAdd(at(2 * c), luma, at(2 * c + 1));
            };
            const auto changed = [&](auto v, std::size_t c) HWY_ATTR {
                const auto start = from ? line(from, c) : v;
                return hn::MulAdd(hn::Set(d, amount), hn::Sub(line(to, c), start), v);
            };
            r = changed(r, 0);
            g = changed(g, 1);
            b = changed(b, 2);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(TowardsBaseRow);

namespace {

constexpr double mostRadius = 16;               // pixels of the model's level
constexpr double flat = 0.055, wideFlat = 0.1;  // differences of encoded values that count as flat
constexpr int wider = 4;

int radiusOn(double radiusPx, int level) {
    return std::max(1, static_cast<int>(std::lround(radiusPx / (1 << level))));
}

}  // namespace

double EdgeSoftening::widestPx() const {
    return what_ == Softened::all ? radiusPx_ : wider * radiusPx_;
}

int EdgeSoftening::modelLevel(int level) const {
    return std::max(level, image::levelOfLength(widestPx(), mostRadius));
}

int EdgeSoftening::reach(int modelLevel) const {
    return 2 * radiusOn(widestPx(), modelLevel);
}

std::size_t EdgeSoftening::planes() const {
    return what_ == Softened::all ? basePlanes : 2 * basePlanes;
}

void EdgeSoftening::makeModel(image::EncodedPlanes around, const Area& area, std::span<const image::Plane<float>>,
                              std::span<image::Plane<float>> model) const {
    const int radius = radiusOn(radiusPx_, area.level);
    if (what_ == Softened::all) return makeBase(around, radius, flat, model);
    makeBase(around, radiusOn(widestPx(), area.level), wideFlat, model.first(basePlanes));
    const base::Rect inner = base::grown(base::rectOf(around.size()), 2 * radius - reach(area.level));
    image::EncodedPlanes near;
    near.red = image::cropped(around.red, inner);
    near.green = image::cropped(around.green, inner);
    near.blue = image::cropped(around.blue, inner);
    makeBase(near, radius, flat, model.subspan(basePlanes));
}

void EdgeSoftening::row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const {
    const float* const* from = what_ == Softened::all ? nullptr : model.data() + basePlanes;
    HWY_DYNAMIC_DISPATCH(TowardsBaseRow)(amount_, model.data(), from, pixels.encoded(), pixels.count());
}

}  // namespace dimhem::adjust
#endif
