#include "core/mask/haze_depth.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/edge/transmission.h"
#include "core/json/fields.h"
#include "core/kernel/box_sum.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/beyond_photo.h"
#include "core/mask/blur_plan.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/weight_table.h"

namespace dimhem::mask {

namespace {

constexpr double unevenness = 7;  // shares of haze that lie further apart are an edge

base::Result<ShapePtr> hazeDepthFromJson(const nlohmann::json& json) {
    const auto haze = readRange(json, "haze", 0, 100);
    if (!haze) return tl::unexpected(haze.error());
    const auto seen = readSeen(json);
    if (!seen) return tl::unexpected(seen.error());
    const auto smooth = fields::readParam(json, rangeSmoothSpec);
    if (!smooth) return tl::unexpected(smooth.error());
    return std::make_shared<HazeDepth>(HazeDepthValues{*haze, *seen, *smooth});
}

Area wholeAt(base::Size photo, int level) {
    return {base::rectOf(image::levelSize(photo, level)), level};
}

image::LinearPlanes pictureOver(Seen seen, const Area& area, Context& context) {
    image::EncodedPlanes picture(area.rect.size());
    context.readPicture(seen, area, picture);
    return kernel::decoded(std::move(picture));
}

// What is worked out once for the photo.
struct Haze {
    edge::Lines lines;
    colour::LinearRgb air;
};

std::shared_ptr<const Haze> hazeOf(Seen seen, const Area& whole, Context& context) {
    const base::ContentKey key = base::KeyBuilder().add("haze lines").add(context.pictureKey(seen, whole)).key();
    return madeOnce<Haze>(
        context, key,
        [&] {
            const image::LinearPlanes picture = pictureOver(seen, whole, context);
            const colour::LinearRgb air = edge::airLight(picture);
            return std::make_shared<const Haze>(Haze{edge::transmissionLines(picture, air), air});
        },
        [](const Haze& haze) { return 4 * haze.lines.offset.bytes(); });
}

// Means of squares.
image::Plane<float> averaged(const image::Plane<float>& from, int side, base::Size size) {
    const auto count = static_cast<float>(side * side);
    return image::planeOf(size, [&](int x, int y) {
        float sum = 0;
        for (int row = y * side; row < (y + 1) * side; ++row) {
            const float* values = from.row(row).data() + x * side;
            for (int i = 0; i < side; ++i) sum += values[i];
        }
        return sum / count;
    });
}

// The guided filter with itself as its guide, by sums that depend on nothing but the place.
image::Plane<float> smoothed(const image::Plane<float>& haze, int radius) {
    if (radius == 0) return image::copied(haze);
    constexpr auto flat = static_cast<float>(unevenness * unevenness);
    const base::Size size = haze.size();
    const auto each = [&](const auto& value) {
        return image::planeOf(size, [&](int x, int y) { return value(y, static_cast<std::size_t>(x)); });
    };
    const image::Plane<float> mean = kernel::boxMean(haze, radius);
    const image::Plane<float> squares =
        kernel::boxMean(each([&](int y, std::size_t x) { return haze.row(y)[x] * haze.row(y)[x]; }), radius);
    const image::Plane<float> slope = each([&](int y, std::size_t x) {
        const float variance = std::max(0.0f, squares.row(y)[x] - mean.row(y)[x] * mean.row(y)[x]);
        return variance / (variance + flat);
    });
    const image::Plane<float> offset =
        kernel::boxMean(each([&](int y, std::size_t x) { return (1 - slope.row(y)[x]) * mean.row(y)[x]; }), radius);
    const image::Plane<float> evenSlope = kernel::boxMean(slope, radius);
    return each([&](int y, std::size_t x) { return evenSlope.row(y)[x] * haze.row(y)[x] + offset.row(y)[x]; });
}

}  // namespace

const ShapeKind HazeDepth::kindInfo = {
    .id = "haze-depth",
    .label = "Haze depth",
    .tip = "Only what lies so deep in haze: the far hills without the near trees.",
    .makeFor = [](base::Size) -> ShapePtr { return std::make_shared<HazeDepth>(HazeDepthValues{}); },
    .fromJson = hazeDepthFromJson,
    .isRange = true,
};

image::Plane<float> HazeDepth::hazeOver(const Area& area, Context& context) const {
    const Area inside = onPhoto(context.photoSize(), area);
    if (inside.rect != area.rect) return extended(hazeOver(inside, context), inside.rect, area.rect);
    const Area whole = wholeAt(context.photoSize(), image::levelOfSide(context.photoSize(), edge::hazeSide));
    if (area.level > whole.level) {
        const int by = area.level - whole.level, side = 1 << by;
        const base::Rect& r = area.rect;
        const Area finer{{r.x0 * side, r.y0 * side, r.x1 * side, r.y1 * side}, whole.level};
        return averaged(hazeOver(finer, context), side, r.size());
    }
    const base::Size size = whole.rect.size();
    if (std::min(size.width, size.height) < 2) return image::filled(area.rect.size(), 0.0f);
    const auto haze = hazeOf(values_.seen, whole, context);
    const image::LinearPlanes picture = pictureOver(values_.seen, area, context);
    image::Plane<float> out =
        edge::transmissionOver(picture, haze->lines, haze->air, area.rect, whole.level - area.level);
    for (int y = 0; y < out.size().height; ++y) {
        for (float& t : out.row(y)) t = 100 * (1 - t);
    }
    return out;
}

base::ContentKey HazeDepth::keyOn(const Area& area, Context& context) const {
    const Area whole = wholeAt(context.photoSize(), image::levelOfSide(context.photoSize(), edge::hazeSide));
    return keyOf(area)
        .add(kindInfo.id)
        .add(std::span<const double>(values_.haze.points))
        .add(values_.smoothPx)
        .add(context.pictureKey(values_.seen, whole))
        .key();
}

CoveragePtr HazeDepth::render(const Area& area, Context& context) const {
    const BlurPlan plan = planBlur(area, values_.smoothPx, 2 * values_.smoothPx);  // the filter reaches twice as far
    image::Plane<float> haze = hazeOver(plan.area, context);
    haze = smoothed(haze, static_cast<int>(std::lround(2 * plan.sigma)));
    const WeightTable weight(0, 100, [&](double share) { return weightOn(values_.haze, share); });
    for (int y = 0; y < haze.size().height; ++y)
        std::transform(haze.row(y).begin(), haze.row(y).end(), haze.row(y).begin(), weight);
    return readBack(haze, plan, area);
}

void HazeDepth::toJson(nlohmann::json& json) const {
    json["haze"] = values_.haze.points;
    json["measured"] = idOf(values_.seen);
    json["smooth"] = values_.smoothPx;
}

}  // namespace dimhem::mask
