#include "core/mask/radial_gradient.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <numbers>

#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/coverage_rows.h"

namespace dimhem::mask {

namespace {

constexpr double maxHalfAxisPx = 200'000;

// rho of places of the photo.
class Distance {
public:
    explicit Distance(const Oval& oval) : centre_(oval.centre) {
        const double angle = oval.angleDeg * std::numbers::pi / 180;
        const double w = std::max(oval.halfWidthPx, 0.5), h = std::max(oval.halfHeightPx, 0.5);
        ux_ = std::cos(angle) / w;
        uy_ = std::sin(angle) / w;
        vx_ = -std::sin(angle) / h;
        vy_ = std::cos(angle) / h;
    }
    double operator()(double x, double y) const {
        const double dx = x - centre_.x, dy = y - centre_.y;
        return std::hypot(dx * ux_ + dy * uy_, dx * vx_ + dy * vy_);
    }

private:
    base::Point centre_;
    double ux_, uy_, vx_, vy_;
};

std::uint16_t coverageAt(double rho, double inner, double feather) {
    const double t = std::clamp((rho - inner) / feather, 0.0, 1.0);
    return static_cast<std::uint16_t>((1 - t * t * (3 - 2 * t)) * kernel::fullCoverage + 0.5);
}

base::Result<double> readHalfAxis(const nlohmann::json& json, std::string_view name) {
    const auto value = fields::readNumber(json, name);
    if (value && !(*value > 0 && *value <= maxHalfAxisPx))
        return fields::wrongField(name, "above 0 and at most 200000");
    return value;
}

constexpr auto ovalOver = [](const Oval& oval, const Area& area) {
    const Distance rho(oval);
    const double scale = area.scale();
    // Never narrower than a pixel of the level, which then lies half inside and half outside the rim: a feather of 0 is
    // an anti-aliased oval.
    const double pixel = std::min(scale / std::max(1.0, std::min(oval.halfWidthPx, oval.halfHeightPx)), 1.0);
    const bool hard = oval.featherPct / 100 < pixel;
    const double feather = hard ? pixel : oval.featherPct / 100;
    const double inner = hard ? 1 - pixel / 2 : 1 - feather;
    image::Plane<std::uint16_t> plane(area.rect.size());
    for (int y = 0; y < area.rect.height(); ++y) {
        std::uint16_t* row = plane.row(y).data();
        const double py = (area.rect.y0 + y + 0.5) * scale;
        for (int x = 0; x < area.rect.width(); ++x)
            row[x] = coverageAt(rho((area.rect.x0 + x + 0.5) * scale, py), inner, feather);
    }
    return Coverage(std::move(plane));
};

Oval middleOval(base::Size photo) {
    const double side = std::min(photo.width, photo.height);
    return {{photo.width / 2.0, photo.height / 2.0}, side * 0.32, side * 0.32, 0, 50};
}

base::Result<ShapePtr> radialGradientFromJson(const nlohmann::json& json) {
    const auto centre = fields::readPoint(json.value("centre", nlohmann::json()), "centre");
    if (!centre) return tl::unexpected(centre.error());
    const auto width = readHalfAxis(json, "half-width"), height = readHalfAxis(json, "half-height");
    if (!width) return tl::unexpected(width.error());
    if (!height) return tl::unexpected(height.error());
    const double none = 0;
    const auto angle = fields::readNumber(json, "angle", &none);
    if (!angle) return tl::unexpected(angle.error());
    const auto feather = fields::readParam(json, ovalFeatherSpec);
    if (!feather) return tl::unexpected(feather.error());
    return std::make_shared<RadialGradient>(Oval{*centre, *width, *height, std::remainder(*angle, 360), *feather});
}

}  // namespace

const base::ParamSpec ovalFeatherSpec = {.id = "feather",
                                         .label = "Softness",
                                         .unit = "%",
                                         .max = 100,
                                         .neutral = 50,
                                         .tip = "How far inside the outer oval the mask is full again."};

const ShapeKind RadialGradient::kindInfo = {
    .id = "radial-gradient",
    .label = "Radial gradient",
    .tip = "Full within an oval, fading to none: a face, a lamp, light that falls in from the side.",
    .makeFor = [](base::Size photo) -> ShapePtr { return std::make_shared<RadialGradient>(middleOval(photo)); },
    .fromJson = radialGradientFromJson,
    .schema =
        [] {
            const schema::Schema axis{{"type", "number"}, {"exclusiveMinimum", 0}, {"maximum", 200'000}};
            return schema::Members{.properties = {{"centre", schema::place()},
                                                  {"half-width", axis},
                                                  {"half-height", axis},
                                                  {"angle", {{"type", "number"}}},
                                                  {"feather", schema::of(ovalFeatherSpec)}},
                                   .required = {"centre", "half-width", "half-height"}};
        },
    .group = "drawn",
    .ends = Ends::gradually,
    .anew = [](const Shape& like, base::Size photo) -> ShapePtr {
        Oval oval = middleOval(photo);
        oval.featherPct = static_cast<const RadialGradient&>(like).oval().featherPct;
        return std::make_shared<RadialGradient>(oval);
    },
};

std::optional<std::uint16_t> RadialGradient::uniformOn(const Area& area) const {
    const double scale = area.scale(), reach = std::max(oval_.halfWidthPx, oval_.halfHeightPx);
    const double rim = reach * scale / std::max(1.0, std::min(oval_.halfWidthPx, oval_.halfHeightPx));
    const double x = std::clamp(oval_.centre.x, area.rect.x0 * scale, area.rect.x1 * scale);
    const double y = std::clamp(oval_.centre.y, area.rect.y0 * scale, area.rect.y1 * scale);
    const bool isNear = std::hypot(x - oval_.centre.x, y - oval_.centre.y) < reach + rim;
    return isNear ? std::nullopt : std::optional<std::uint16_t>(0);
}

Staged<Coverage> RadialGradient::over(const Area& area, Context&) const {
    return staged<Coverage>(kindInfo.id, ovalOver, oval_, area);
}

void RadialGradient::toJson(nlohmann::json& json) const {
    json["centre"] = {oval_.centre.x, oval_.centre.y};
    json["half-width"] = oval_.halfWidthPx;
    json["half-height"] = oval_.halfHeightPx;
    json["angle"] = oval_.angleDeg;
    json["feather"] = oval_.featherPct;
}

}  // namespace dimhem::mask
