#include "core/mask/linear_gradient.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/coverage_rows.h"

namespace dimhem::mask {

namespace {

// t as a linear function of the level's pixel centres: t = at0 + x dx + y dy.
struct Slope {
    double at0, dx, dy;
    double operator()(double x, double y) const { return at0 + x * dx + y * dy; }
};

Slope slopeOf(base::Point full, base::Point none, const Area& area) {
    const base::Point spine = none - full;
    const double length2 = std::max(spine.x * spine.x + spine.y * spine.y, 1e-6);
    const double gx = spine.x / length2, gy = spine.y / length2;
    const double half = 0.5 * area.scale();
    return {(half - full.x) * gx + (half - full.y) * gy, gx * area.scale(), gy * area.scale()};
}

std::uint16_t coverageAt(double t, GradientProfile profile) {
    t = std::clamp(t, 0.0, 1.0);
    const double covered = profile == GradientProfile::linear ? 1 - t : 1 - t * t * (3 - 2 * t);
    return static_cast<std::uint16_t>(covered * kernel::fullCoverage + 0.5);
}

ShapePtr inTheUpperHalf(base::Size photo, GradientProfile profile) {
    const double x = photo.width / 2.0;
    return std::make_shared<LinearGradient>(base::Point{x, photo.height * 0.25}, base::Point{x, photo.height * 0.55},
                                            profile);
}

base::Result<ShapePtr> linearGradientFromJson(const nlohmann::json& json) {
    const auto full = fields::readPoint(json.value("full", nlohmann::json()), "full");
    if (!full) return tl::unexpected(full.error());
    const auto none = fields::readPoint(json.value("none", nlohmann::json()), "none");
    if (!none) return tl::unexpected(none.error());
    const auto profile = fields::readText(json, "profile", "smooth");
    if (!profile) return tl::unexpected(profile.error());
    if (*profile != "smooth" && *profile != "linear") return fields::wrongField("profile", "\"smooth\" or \"linear\"");
    return std::make_shared<LinearGradient>(*full, *none,
                                            *profile == "linear" ? GradientProfile::linear : GradientProfile::smooth);
}

}  // namespace

const ShapeKind LinearGradient::kindInfo = {
    .id = "linear-gradient",
    .label = "Linear gradient",
    .tip = "Full on one side of a line, fading to none: skies, foregrounds, side light.",
    .makeFor = [](base::Size photo) { return inTheUpperHalf(photo, GradientProfile::smooth); },
    .fromJson = linearGradientFromJson,
    .schema =
        [] {
            return schema::Members{.properties = {{"full", schema::place()},
                                                  {"none", schema::place()},
                                                  {"profile", schema::oneOf({"smooth", "linear"})}},
                                   .required = {"full", "none"}};
        },
    .group = "drawn",
    .ends = Ends::gradually,
    .anew = [](const Shape& like, base::Size photo) -> ShapePtr {
        return inTheUpperHalf(photo, static_cast<const LinearGradient&>(like).profile());
    },
};

LinearGradient::LinearGradient(base::Point full, base::Point none, GradientProfile profile)
    : full_(full), none_(none), profile_(profile) {}

std::optional<std::uint16_t> LinearGradient::uniformOn(const Area& area) const {
    const Slope slope = slopeOf(full_, none_, area);
    const base::Rect& r = area.rect;
    const auto [low, high] = std::minmax({slope(r.x0, r.y0), slope(r.x1, r.y0), slope(r.x0, r.y1), slope(r.x1, r.y1)});
    if (high <= 0) return std::uint16_t{kernel::fullCoverage};
    if (low >= 1) return std::uint16_t{0};
    return std::nullopt;
}

Staged<Coverage> LinearGradient::over(const Area& area, Context&) const {
    if (const auto uniform = uniformOn(area)) return uniformCoverage(*uniform);
    return staged<Coverage>(
        kindInfo.id,
        [](base::Point full, base::Point none, GradientProfile profile, const Area& area) {
            const Slope slope = slopeOf(full, none, area);
            const base::Rect& r = area.rect;
            image::Plane<std::uint16_t> plane(r.size());
            for (int y = 0; y < r.height(); ++y) {
                std::uint16_t* row = plane.row(y).data();
                for (int x = 0; x < r.width(); ++x) row[x] = coverageAt(slope(x + r.x0, y + r.y0), profile);
            }
            return Coverage(std::move(plane));
        },
        full_, none_, profile_, area);
}

void LinearGradient::toJson(nlohmann::json& json) const {
    json["full"] = {full_.x, full_.y};
    json["none"] = {none_.x, none_.y};
    json["profile"] = profile_ == GradientProfile::linear ? "linear" : "smooth";
}

}  // namespace dimhem::mask
