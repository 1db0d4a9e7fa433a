#include "core/mask/stroke.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/json/fields.h"
#include "core/json/schema.h"

namespace dimhem::mask {

namespace {

constexpr std::size_t maxPoints = 200'000;  // of one stroke; more than an hour of painting
constexpr std::size_t dabsPerBlock = 64;
constexpr std::size_t maxDabs = 2'000'000;
constexpr std::size_t roomForOneWay = maxDabs / 4;  // a way across the largest photo lays fewer

constexpr BrushParam params[] = {
    {{.id = "size",
      .label = "Size",
      .unit = "px",
      .min = 1,
      .max = 4000,
      .neutral = 180,
      .tip = "Diameter of the brush in pixels of the photo.",
      .scale = base::Scale::logarithmic},
     &BrushSettings::sizePx},
    {{.id = "softness",
      .label = "Softness",
      .unit = "%",
      .max = 100,
      .neutral = 50,
      .tip = "How much of the radius the rim takes to fade: soft for tone, hard only along real edges."},
     &BrushSettings::softnessPct},
    {{.id = "strength",
      .label = "Strength",
      .unit = "%",
      .min = 1,
      .max = 100,
      .neutral = 100,
      .tip = "The most that one stroke lays down, however often it crosses."},
     &BrushSettings::strengthPct},
    {{.id = "build",
      .label = "Build",
      .unit = "%",
      .min = 1,
      .max = 100,
      .neutral = 100,
      .tip = "How far each dab goes towards the strength of the stroke."},
     &BrushSettings::buildPct},
    {{.id = "spacing",
      .label = "Spacing",
      .unit = "%",
      .min = 1,
      .max = 100,
      .neutral = 5,
      .tip = "Distance between dabs, as a share of the size."},
     &BrushSettings::spacingPct},
    {{.id = "pressure-size",
      .label = "Pen to size",
      .unit = "%",
      .max = 100,
      .step = 5,
      .tip = "How much of the size follows the pressure of the pen."},
     &BrushSettings::pressureSizePct},
    {{.id = "pressure-strength",
      .label = "Pen to strength",
      .unit = "%",
      .max = 100,
      .step = 5,
      .tip = "How much of the strength follows the pressure of the pen."},
     &BrushSettings::pressureStrengthPct},
    {{.id = "tolerance",
      .label = "Tolerance",
      .unit = "%",
      .min = 25,
      .max = 90,
      .neutral = 75,
      .tip = "How much of the colours under the centre is held to: less keeps stricter to edges between like colours."},
     &BrushSettings::tolerancePct},
};

base::ContentKey keyOfBrush(const BrushSettings& brush) {
    base::KeyBuilder builder;
    for (const BrushParam& param : params) builder.add(brush.*param.value);
    builder.add(brush.removes).add(brush.holds);
    add(builder, brush.brings);
    return builder.key();
}

double withPressure(double sharePct, double pressure) {
    return 1 - sharePct / 100 * (1 - pressure);
}

base::Result<StrokePoint> pointFromJson(const nlohmann::json& json) {
    const bool pressed = json.is_array() && json.size() == 3;
    const auto at = fields::readPoint(pressed ? nlohmann::json{json[0], json[1]} : json, "points");
    if (!at) return tl::unexpected(at.error());
    StrokePoint point{*at, 1};
    if (pressed) {
        if (!json[2].is_number()) return fields::wrongField("points", "a list of [x, y] or [x, y, pressure]");
        point.pressure = json[2].get<double>();
        if (!(point.pressure >= 0 && point.pressure <= 1))
            return fields::wrongField("points", "given a pressure from 0 to 1");
    }
    return point;
}

}  // namespace

std::span<const BrushParam> brushParams() {
    return params;
}

Stroke::Stroke(const BrushSettings& brush, const StrokePoint& first) : brush_(brush) {
    if (brush_.removes) brush_.brings = {};  // what takes away brings nothing, whatever the brush was set to
    points_.push_back(first);
    chain_.push_back(keyOfBrush(brush_));
    layDab(first.at, first.pressure);
    seed_ = base::KeyBuilder().add(chain_[1]).key();
}

void Stroke::layDab(base::Point at, double pressure) {
    const double radius = std::max(0.5, brush_.sizePx / 2 * withPressure(brush_.pressureSizePct, pressure));
    const double ceiling = withPressure(brush_.pressureStrengthPct, pressure);
    const Dab dab{static_cast<float>(at.x), static_cast<float>(at.y), static_cast<float>(radius),
                  static_cast<float>(ceiling)};
    dabs_.push_back(dab);
    chain_.push_back(
        base::KeyBuilder().add(chain_.back()).add(dab.x).add(dab.y).add(dab.radius).add(dab.ceiling).key());
    const base::Rect round{static_cast<int>(std::floor(at.x - radius)), static_cast<int>(std::floor(at.y - radius)),
                           static_cast<int>(std::ceil(at.x + radius)), static_cast<int>(std::ceil(at.y + radius))};
    bounds_ = base::united(bounds_, round);
    tailBounds_ = base::united(tailBounds_, round);
    if (dabs_.size() % dabsPerBlock == 0) {
        blockBounds_.push_back(tailBounds_);
        tailBounds_ = {};
    }
}

double Stroke::spacingPx(double pressure) const {
    return std::max(0.25, brush_.sizePx * withPressure(brush_.pressureSizePct, pressure) * brush_.spacingPct / 100);
}

StrokePtr Stroke::extended(const StrokePoint& next) const {
    auto longer = std::make_shared<Stroke>(*this);
    longer->append(next);
    return longer;
}

StrokePtr Stroke::through(const BrushSettings& brush, std::span<const StrokePoint> points) {
    auto stroke = std::make_shared<Stroke>(brush, points.front());
    for (const StrokePoint& point : points.subspan(1)) stroke->append(point);
    return stroke;
}

StrokePtr Stroke::finished() const {
    auto done = std::make_shared<Stroke>(*this);
    done->finished_ = true;
    return done;
}

void Stroke::append(const StrokePoint& next) {
    const StrokePoint from = points_.back();
    const base::Point way = next.at - from.at;
    const double length = std::hypot(way.x, way.y);
    const auto pressureAt = [&](double gone) {
        return from.pressure + (next.pressure - from.pressure) * gone / length;
    };
    double gone = 0;
    while (length > 0 && dabs_.size() < maxDabs) {
        const double step = std::max(spacingPx(pressureAt(gone)) - sinceLastDab_, 0.0);
        if (gone + step > length) break;
        gone += step;
        layDab(from.at + way * (gone / length), pressureAt(gone));
        sinceLastDab_ = 0;
    }
    sinceLastDab_ += length - gone;
    points_.push_back(next);
}

// A point is written as three numbers, which takes more room than a dab.
std::size_t Stroke::weight() const {
    constexpr std::size_t pointWeight = 4;
    return dabs_.size() + pointWeight * points_.size();
}

std::size_t Stroke::mostGrowth() {
    return roomForOneWay;
}

bool Stroke::isFull() const {
    return points_.size() >= maxPoints || dabs_.size() + roomForOneWay >= maxDabs;
}

bool Stroke::touches(const Dab& dab, const base::Rect& r) {
    const float nearestX = std::clamp(dab.x, static_cast<float>(r.x0), static_cast<float>(r.x1));
    const float nearestY = std::clamp(dab.y, static_cast<float>(r.y0), static_cast<float>(r.y1));
    const float dx = dab.x - nearestX, dy = dab.y - nearestY;
    return dx * dx + dy * dy < dab.radius * dab.radius;
}

std::size_t Stroke::dabsUpToLastTouching(const base::Rect& photoRect) const {
    if (base::intersected(bounds_, photoRect).empty()) return 0;
    std::size_t n = dabs_.size();
    while (n > 0 && !touches(dabs_[n - 1], photoRect)) {
        --n;
        while (n > 0 && n % dabsPerBlock == 0 &&
               base::intersected(blockBounds_[n / dabsPerBlock - 1], photoRect).empty())
            n -= dabsPerBlock;
    }
    return n;
}

base::Result<StrokePtr> Stroke::fromJson(const nlohmann::json& json) {
    if (!json.is_object()) return fields::wrongField("strokes", "a list of strokes");
    BrushSettings brush;
    for (const BrushParam& param : params) {
        const auto value = fields::readParam(json, param.spec);
        if (!value) return tl::unexpected(value.error());
        brush.*param.value = *value;
    }
    const auto removes = fields::readBool(json, "removes", false);
    if (!removes) return tl::unexpected(removes.error());
    brush.removes = *removes;
    const auto holds = fields::readBool(json, "holds", false);
    if (!holds) return tl::unexpected(holds.error());
    brush.holds = *holds;
    if (const auto found = json.find("brings"); found != json.end()) {
        const auto brings = bringsFromJson(*found);
        if (!brings) return tl::unexpected(brings.error());
        brush.brings = *brings;
    }

    const auto points = json.find("points");
    if (points == json.end() || !points->is_array() || points->empty() || points->size() > maxPoints) {
        return fields::wrongField("points", "a list of at least one place");
    }
    std::vector<StrokePoint> way;
    for (const auto& item : *points) {
        const auto point = pointFromJson(item);
        if (!point) return tl::unexpected(point.error());
        way.push_back(*point);
    }
    const StrokePtr stroke = through(brush, way)->finished();
    if (stroke->dabs_.size() >= maxDabs) return fields::wrongField("points", "a stroke of fewer than two million dabs");
    return stroke;
}

nlohmann::ordered_json Stroke::schema() {
    using schema::numberOf;
    schema::Schema properties;
    for (const BrushParam& param : brushParams()) properties[std::string(param.spec.id)] = schema::of(param.spec);
    properties["removes"] = schema::flag(false);
    properties["holds"] = schema::flag(false);
    properties["brings"] = bringsSchema();
    constexpr double far = fields::farPx;
    const schema::Schema pressed{{"type", "array"},
                                 {"prefixItems", {numberOf(-far, far), numberOf(-far, far), numberOf(0, 1)}},
                                 {"minItems", 2},
                                 {"maxItems", 3}};
    properties["points"] = {{"type", "array"}, {"items", pressed}, {"minItems", 1}, {"maxItems", 200'000}};
    return schema::object(std::move(properties), {"points"});
}

nlohmann::json Stroke::toJson() const {
    nlohmann::json json;
    for (const BrushParam& param : params) json[std::string(param.spec.id)] = brush_.*param.value;
    json["removes"] = brush_.removes;
    json["holds"] = brush_.holds;
    if (brush_.brings.kind != BringKind::nothing) json["brings"] = mask::toJson(brush_.brings);
    auto& points = json["points"] = nlohmann::json::array();
    for (const StrokePoint& point : points_) points.push_back({point.at.x, point.at.y, point.pressure});
    return json;
}

}  // namespace dimhem::mask
