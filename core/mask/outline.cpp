#include "core/mask/outline.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/kernel/gaussian.h"
#include "core/mask/blur_plan.h"
#include "core/mask/json_fields.h"

namespace dimhem::mask {

namespace {

constexpr std::size_t maxPoints = 20'000;
constexpr int linesPerPixel = 8;  // across; along a line, coverage is exact

// The polygon over an area: each row is cut by a few horizontal lines, between whose crossings the row is inside.
image::Plane<float> filled(const std::vector<base::Point>& points, const Area& area) {
    image::Plane<float> out(area.rect.size());
    std::vector<double> crossings;
    const auto width = static_cast<double>(area.rect.width());
    for (int y = 0; y < area.rect.height(); ++y) {
        float* row = out.row(y).data();
        std::fill_n(row, area.rect.width(), 0.0f);
        for (int line = 0; line < linesPerPixel; ++line) {
            const double at = area.rect.y0 + y + (line + 0.5) / linesPerPixel;
            crossings.clear();
            for (std::size_t i = 0; i < points.size(); ++i) {
                const base::Point a = area.toLevel(points[i]), b = area.toLevel(points[(i + 1) % points.size()]);
                if ((a.y <= at) == (b.y <= at)) continue;
                crossings.push_back(a.x + (at - a.y) / (b.y - a.y) * (b.x - a.x) - area.rect.x0);
            }
            std::sort(crossings.begin(), crossings.end());
            for (std::size_t i = 0; i + 1 < crossings.size(); i += 2) {
                const double from = std::clamp(crossings[i], 0.0, width), to = std::clamp(crossings[i + 1], 0.0, width);
                for (int x = static_cast<int>(from); x < static_cast<int>(std::ceil(to)); ++x) {
                    row[x] += static_cast<float>((std::min(to, x + 1.0) - std::max(from, double(x))) / linesPerPixel);
                }
            }
        }
    }
    return out;
}

base::Result<ShapePtr> fromJson(const nlohmann::json& json) {
    std::vector<base::Point> points;
    const auto list = json.find("points");
    if (list == json.end() || !list->is_array() || list->size() > maxPoints)
        return wrongField("points", "a list of places");
    for (const auto& item : *list) {
        const auto point = readPoint(item, "points");
        if (!point) return tl::unexpected(point.error());
        points.push_back(*point);
    }
    const auto feather = readParam(json, outlineFeatherSpec);
    if (!feather) return tl::unexpected(feather.error());
    return std::make_shared<Outline>(std::move(points), *feather);
}

}  // namespace

const base::ParamSpec outlineFeatherSpec = {
    "feather", "Feather", "px",
    0,         500,       2,
    1,         0,         "The distance over which the edge goes from 90 % to 10 %, in pixels of the photo."};

const ShapeKind Outline::kindInfo = {"outline", "Outline", "Drawn round the thing, freehand or from click to click.",
                                     [](base::Size) -> ShapePtr {
                                         return std::make_shared<Outline>(std::vector<base::Point>{},
                                                                          outlineFeatherSpec.neutral);
                                     },
                                     fromJson};

base::ContentKey Outline::keyOn(const Area& area, Context&) const {
    base::KeyBuilder key = keyOf(area);
    key.add(kindInfo.id).add(featherPx_);
    for (const base::Point& point : points_) key.add(point.x).add(point.y);
    return key.key();
}

CoveragePtr Outline::render(const Area& area, Context&) const {
    if (points_.size() < 3) return std::make_shared<Coverage>(std::uint16_t{0});
    const BlurPlan plan = planBlur(area, featherPx_ * kernel::sigmaPerEdgeDistance);
    image::Plane<float> plane = filled(points_, plan.area);
    kernel::gaussianBlur(plane, plan.sigma);
    return readBack(plane, plan, area);
}

void Outline::toJson(nlohmann::json& json) const {
    auto& list = json["points"] = nlohmann::json::array();
    for (const base::Point& point : points_) list.push_back({point.x, point.y});
    json["feather"] = featherPx_;
}

}  // namespace dimhem::mask
