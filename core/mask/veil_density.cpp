#include "core/mask/veil_density.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/blur_plan.h"
#include "core/mask/luminosity_range.h"

namespace dimhem::mask {

namespace {

using colour::LinearRgb;

base::Result<std::optional<LinearRgb>> readLight(const nlohmann::json& json, std::string_view name) {
    const auto found = json.find(name);
    if (found == json.end()) return std::optional<LinearRgb>();
    constexpr double most = 100;
    const auto inRange = [](const nlohmann::json& v) {
        return v.is_number() && v.get<double>() >= 0 && v.get<double>() <= most;
    };
    if (!found->is_array() || found->size() != 3 || !std::all_of(found->begin(), found->end(), inRange))
        return fields::wrongField(name, "three numbers from 0 to 100");
    return std::optional(LinearRgb{(*found)[0], (*found)[1], (*found)[2]});
}

base::Result<ShapePtr> veilDensityFromJson(const nlohmann::json& json) {
    const auto dense = readLight(json, "dense");
    if (!dense) return tl::unexpected(dense.error());
    const auto clear = readLight(json, "clear");
    if (!clear) return tl::unexpected(clear.error());
    const auto seen = readSeen(json);
    if (!seen) return tl::unexpected(seen.error());
    const auto smooth = fields::readParam(json, densitySmoothSpec);
    if (!smooth) return tl::unexpected(smooth.error());
    const auto below = fields::readParam(json, clearBelowSpec);
    if (!below) return tl::unexpected(below.error());
    return std::make_shared<VeilDensity>(VeilDensityValues{*dense, *clear, *seen, *smooth, *below});
}

double dot(const LinearRgb& a, const LinearRgb& b) {
    return a.r * b.r + a.g * b.g + a.b * b.b;
}

LinearRgb scaled(const LinearRgb& a, double by) {
    return {a.r * by, a.g * by, a.b * by};
}

constexpr auto densityOver = [](image::EncodedPlanes picture, const LinearRgb& n, double clearBelowPct,
                                const BlurPlan& plan, const Area& area) {
    // What is blown has lost its colour: it takes the density about it.
    constexpr float blown = 0.994f;
    image::Plane<float> known = image::planeOf(plan.area.rect.size(), [&](int x, int y) {
        const float most =
            std::max({picture.red.view().at(x, y), picture.green.view().at(x, y), picture.blue.view().at(x, y)});
        return most < blown ? 1.0f : 1e-4f;
    });
    const image::LinearPlanes light = kernel::decoded(std::move(picture));
    const float r = static_cast<float>(n.r), g = static_cast<float>(n.g), b = static_cast<float>(n.b);
    image::Plane<float> density = image::planeOf(plan.area.rect.size(), [&](int x, int y) {
        return known.view().at(x, y) *
               (r * light.red.view().at(x, y) + g * light.green.view().at(x, y) + b * light.blue.view().at(x, y));
    });
    const auto c = static_cast<float>(clearBelowPct / 100);
    kernel::gaussianBlur(density, plan.sigma);
    kernel::gaussianBlur(known, plan.sigma);
    for (int y = 0; y < density.size().height; ++y)
        std::transform(density.row(y).begin(), density.row(y).end(), known.row(y).begin(), density.row(y).begin(),
                       [=](float sum, float weight) { return std::clamp((sum / weight - c) / (1 - c), 0.0f, 1.0f); });
    return readBack(density, plan, area);
};

}  // namespace

const base::ParamSpec
    densitySmoothSpec =
        {.id = "smooth",
         .label = "Even out",
         .unit = "px",
         .max = 300,
         .neutral = 30,
         .tip = "Evens out what is told from the photo, in pixels of it: a veil is smooth, things under it are not."},
    clearBelowSpec = {.id = "clear-below",
                      .label = "Clear below",
                      .unit = "%",
                      .max = 60,
                      .step = 0.5,
                      .decimals = 1,
                      .tip = "So thin a veil counts as none: for colours that only look like it."};

const ShapeKind VeilDensity::kindInfo = {
    .id = "veil-density",
    .label = "Veil density",
    .tip = "How much of a veil of another colour lies over each place, such as a leak of light.",
    .makeFor = [](base::Size) -> ShapePtr { return std::make_shared<VeilDensity>(VeilDensityValues{}); },
    .fromJson = veilDensityFromJson,
    .schema =
        [] {
            const schema::Schema light = schema::listOf(schema::numberOf(0, 100), 3, 3);
            return schema::Members{.properties = {{"dense", light},
                                                  {"clear", light},
                                                  {"smooth", schema::of(densitySmoothSpec)},
                                                  {"clear-below", schema::of(clearBelowSpec)},
                                                  {"measured", schema::oneOf({"photo", "arriving"})}}};
        },
    .group = "by tone and colour",
    .isRange = true,
};

std::optional<LinearRgb> VeilDensity::direction() const {
    constexpr double leastApart = 0.02;  // the sine of the angle between the two
    if (!values_.dense || !values_.clear) return std::nullopt;
    const LinearRgb &c = *values_.dense, &s = *values_.clear;
    const double length = dot(s, s);
    if (!(length > 0) || !(dot(c, c) > 0)) return std::nullopt;
    const double along = dot(c, s) / length;
    const LinearRgb across{c.r - along * s.r, c.g - along * s.g, c.b - along * s.b};
    const double size = dot(across, across);
    if (size < leastApart * leastApart * dot(c, c)) return std::nullopt;
    return scaled(across, 1 / size);  // c . across is across . across
}

std::optional<std::uint16_t> VeilDensity::uniformOn(const Area&) const {
    return direction() ? std::nullopt : std::optional<std::uint16_t>(0);
}

Staged<Coverage> VeilDensity::over(const Area& area, Context& context) const {
    const auto across = direction();
    if (!across) return uniformCoverage(0);
    const BlurPlan plan = planBlur(area, values_.smoothPx);
    return staged<Coverage>(kindInfo.id, densityOver, context.picture(values_.seen, plan.area), *across,
                            values_.clearBelowPct, plan, area);
}

void VeilDensity::toJson(nlohmann::json& json) const {
    const auto light = [](const LinearRgb& c) { return std::array{c.r, c.g, c.b}; };
    if (values_.dense) json["dense"] = light(*values_.dense);
    if (values_.clear) json["clear"] = light(*values_.clear);
    json["measured"] = idOf(values_.seen);
    json["smooth"] = values_.smoothPx;
    json["clear-below"] = values_.clearBelowPct;
}

}  // namespace dimhem::mask
