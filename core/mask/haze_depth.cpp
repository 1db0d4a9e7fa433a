#include "core/mask/haze_depth.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/edge/transmission.h"
#include "core/json/fields.h"
#include "core/json/schema.h"
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

// What is worked out once for the photo.
struct Haze {
    edge::Lines lines;
    colour::LinearRgb air;
    std::size_t bytes() const { return 4 * lines.offset.bytes(); }
};

Staged<Haze> hazeOf(Seen seen, const Area& whole, Context& context) {
    return stage::kept(context, staged<Haze>(
                                    "haze lines",
                                    [](image::EncodedPlanes seen) {
                                        const image::LinearPlanes picture = kernel::decoded(std::move(seen));
                                        const colour::LinearRgb air = edge::airLight(picture);
                                        return Haze{edge::transmissionLines(picture, air), air};
                                    },
                                    context.picture(seen, whole)));
}

// The share over an area of the level where the lines were found, or a finer one, in percent.
constexpr auto hazeFrom = [](const Haze& haze, image::EncodedPlanes picture, const Area& area, int level) {
    image::Plane<float> out = edge::transmissionOver(kernel::decoded(std::move(picture)), haze.lines, haze.air,
                                                     area.rect, level - area.level);
    for (int y = 0; y < out.size().height; ++y) {
        for (float& t : out.row(y)) t = 100 * (1 - t);
    }
    return out;
};

constexpr auto goneOn = [](const image::Plane<float>& from, const base::Rect& inside, const base::Rect& area) {
    return extended(from, inside, area);
};

// Means of squares.
constexpr auto averaged = [](const image::Plane<float>& from, int side, base::Size size) {
    const auto count = static_cast<float>(side * side);
    return image::planeOf(size, [&](int x, int y) {
        float sum = 0;
        for (int row = y * side; row < (y + 1) * side; ++row) {
            const float* values = from.row(row).data() + x * side;
            for (int i = 0; i < side; ++i) sum += values[i];
        }
        return sum / count;
    });
};

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
    .schema =
        [] {
            return schema::Members{.properties = {{"haze", schema::fourRising(0, 100)},
                                                  {"smooth", schema::of(rangeSmoothSpec)},
                                                  {"measured", schema::oneOf({"photo", "arriving"})}},
                                   .required = {"haze"}};
        },
    .group = "by tone and colour",
    .isRange = true,
};

Staged<image::Plane<float>> HazeDepth::hazeOver(const Area& area, Context& context) const {
    const Area inside = onPhoto(context.photoSize(), area);
    if (inside.rect != area.rect)
        return staged<image::Plane<float>>("gone on", goneOn, hazeOver(inside, context), inside.rect, area.rect);
    const int level = image::levelOfSide(context.photoSize(), edge::hazeSide);
    const Area whole = image::wholeAt(context.photoSize(), level);
    if (area.level > level) {
        const int side = 1 << (area.level - level);
        const base::Rect& r = area.rect;
        const Area finer{{r.x0 * side, r.y0 * side, r.x1 * side, r.y1 * side}, level};
        return staged<image::Plane<float>>("averaged", averaged, hazeOver(finer, context), side, r.size());
    }
    if (std::min(whole.rect.width(), whole.rect.height()) < 2)
        return staged<image::Plane<float>>(
            "no haze", [](base::Size size) { return image::filled(size, 0.0f); }, area.rect.size());
    return staged<image::Plane<float>>("haze", hazeFrom, hazeOf(values_.seen, whole, context),
                                       context.picture(values_.seen, area), area, level);
}

Staged<Coverage> HazeDepth::over(const Area& area, Context& context) const {
    const BlurPlan plan = planBlur(area, values_.smoothPx, 2 * values_.smoothPx);  // the filter reaches twice as far
    return staged<Coverage>(
        kindInfo.id,
        [](const image::Plane<float>& haze, const Range& range, const BlurPlan& plan, const Area& area) {
            image::Plane<float> out = smoothed(haze, static_cast<int>(std::lround(2 * plan.sigma)));
            const WeightTable weight(0, 100, [&](double share) { return weightOn(range, share); });
            for (int y = 0; y < out.size().height; ++y)
                std::transform(out.row(y).begin(), out.row(y).end(), out.row(y).begin(), weight);
            return readBack(out, plan, area);
        },
        hazeOver(plan.area, context), values_.haze, plan, area);
}

void HazeDepth::toJson(nlohmann::json& json) const {
    json["haze"] = values_.haze.points;
    json["measured"] = idOf(values_.seen);
    json["smooth"] = values_.smoothPx;
}

}  // namespace dimhem::mask
