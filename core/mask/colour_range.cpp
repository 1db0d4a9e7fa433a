#include "core/mask/colour_range.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <numbers>

#include "core/colour/hsl.h"
#include "core/image/tiles.h"
#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/components.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/lab_rows.h"
#include "core/mask/blur_plan.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/weight_table.h"

namespace dimhem::mask {

namespace {

constexpr float toneWeight = 0.6f;
constexpr int connectedSidePx = 1600;

constexpr ColourRangeParam params[] = {
    {{.id = "tolerance",
      .label = "Tolerance",
      .max = 100,
      .neutral = 12,
      .tip = "How far from the picked colours still counts fully."},
     &ColourRangeValues::tolerance},
    {{.id = "softness",
      .label = "Softness",
      .max = 100,
      .neutral = 12,
      .tip = "How much further it takes to fade out."},
     &ColourRangeValues::softness},
    {{.id = "min-chroma",
      .label = "Least chroma",
      .unit = "%",
      .max = 100,
      .neutral = 8,
      .tip = "Greyer colours have no hue to speak of and are left out."},
     &ColourRangeValues::minChromaPct},
    {{.id = "radius",
      .label = "Within",
      .unit = "px",
      .max = 4000,
      .step = 10,
      .tip = "Only within this distance of a pick; 0 is everywhere."},
     &ColourRangeValues::radiusPx},
    {{.id = "smooth",
      .label = "Even out",
      .unit = "px",
      .max = 50,
      .neutral = 1,
      .step = 0.5,
      .decimals = 1,
      .tip = "Evens out noise before colours are compared, in pixels of the photo."},
     &ColourRangeValues::smoothPx},
};

double fall(double over, double width) {
    if (over <= 0) return 1;
    if (over >= width) return 0;
    return 0.5 + 0.5 * std::cos(std::numbers::pi * over / width);
}

double hueWeight(const Range& hues, double minChromaPct, double r, double g, double b) {
    const double chroma = (std::max({r, g, b}) - std::min({r, g, b})) * 100;
    if (chroma <= minChromaPct / 2) return 0;
    return weightOnCircle(hues, colour::hslHueDeg({r, g, b})) * fall(minChromaPct - chroma, minChromaPct / 2);
}

void evenOut(image::EncodedPlanes& picture, double sigma) {
    for (image::Plane<float>* plane : {&picture.red, &picture.green, &picture.blue})
        kernel::gaussianBlur(*plane, sigma);
}

constexpr auto byHue = [](image::EncodedPlanes picture, double sigma, const Range& hues, double minChromaPct) {
    evenOut(picture, sigma);
    return image::planeOf(picture.size(), [&](int x, int y) {
        return static_cast<float>(hueWeight(hues, minChromaPct, picture.red.row(y)[static_cast<std::size_t>(x)],
                                            picture.green.row(y)[static_cast<std::size_t>(x)],
                                            picture.blue.row(y)[static_cast<std::size_t>(x)]));
    });
};

constexpr auto byPicks = [](image::EncodedPlanes picture, double sigma, const std::vector<colour::Lab>& colours,
                            double tolerance, double softness) {
    evenOut(picture, sigma);
    const double none = tolerance + softness;
    const WeightTable weight(tolerance, none, [&](double distance) { return fall(distance - tolerance, softness); });
    const auto width = static_cast<std::size_t>(picture.size().width);
    image::Plane<float> out(picture.size());
    for (int y = 0; y < picture.size().height; ++y) {
        const kernel::EncodedRow row = kernel::rowOf(picture, y);
        kernel::labRow(row, width);
        float* to = out.row(y).data();
        kernel::nearestColourRow(row.red, row.green, row.blue, colours, toneWeight, to, width);
        for (std::size_t x = 0; x < width; ++x) {
            const bool fades = softness > 0 && to[x] < none;
            to[x] = to[x] <= tolerance ? 1.0f : fades ? weight(to[x]) : 0.0f;
        }
    }
    return out;
};

schema::Members colourRangeSchema() {
    using schema::Schema;
    const Schema lab = schema::listOf({{"type", "number"}}, 3, 3);
    const Schema pick = schema::object({{"at", schema::place()}, {"lab", lab}}, {"at", "lab"});
    schema::Members own;
    own.properties = {{"by", schema::oneOf({"picks", "hue"})},
                      {"picks", schema::listOf(pick, 0, mostPicks)},
                      {"hues", schema::fourRising(-360, 720)},
                      {"connected", schema::flag(false)},
                      {"measured", schema::oneOf({"photo", "arriving"})}};
    for (const ColourRangeParam& param : params) own.properties[std::string(param.spec.id)] = schema::of(param.spec);
    return own;
}

nlohmann::json pickToJson(const ColourPick& pick) {
    return {{"at", {pick.place.x, pick.place.y}}, {"lab", {pick.colour.l, pick.colour.a, pick.colour.b}}};
}

base::Result<ColourPick> pickFromJson(const nlohmann::json& json) {
    if (!json.is_object()) return fields::wrongField("picks", "a list of picks, each with \"at\" and \"lab\"");
    const auto place = fields::readPoint(json.value("at", nlohmann::json()), "at");
    if (!place) return tl::unexpected(place.error());
    const auto lab = json.find("lab");
    if (lab == json.end() || !lab->is_array() || lab->size() != 3 || !(*lab)[0].is_number() || !(*lab)[1].is_number() ||
        !(*lab)[2].is_number()) {
        return fields::wrongField("lab", "[L*, a*, b*]");
    }
    return ColourPick{*place, {(*lab)[0].get<double>(), (*lab)[1].get<double>(), (*lab)[2].get<double>()}};
}

base::Result<ShapePtr> colourRangeFromJson(const nlohmann::json& json) {
    ColourRangeValues values;
    const auto by = fields::readText(json, "by", "picks");
    if (!by) return tl::unexpected(by.error());
    if (*by != "picks" && *by != "hue") return fields::wrongField("by", "\"picks\" or \"hue\"");
    values.byHue = *by == "hue";
    if (const auto picks = json.find("picks"); picks != json.end()) {
        if (!picks->is_array() || picks->size() > mostPicks)
            return fields::wrongField("picks", "a list of at most 64 picks");
        for (const auto& item : *picks) {
            const auto pick = pickFromJson(item);
            if (!pick)
                return tl::unexpected(fields::inPlace("pick " + std::to_string(values.picks.size() + 1), pick.error()));
            values.picks.push_back(*pick);
        }
    }
    if (json.contains("hues")) {
        const auto hues = readCircleRange(json, "hues");
        if (!hues) return tl::unexpected(hues.error());
        values.hues = *hues;
    }
    for (const ColourRangeParam& param : params) {
        const auto value = fields::readParam(json, param.spec);
        if (!value) return tl::unexpected(value.error());
        values.*param.value = *value;
    }
    const auto connected = fields::readBool(json, "connected", false);
    if (!connected) return tl::unexpected(connected.error());
    values.connected = *connected;
    const auto seen = readSeen(json);
    if (!seen) return tl::unexpected(seen.error());
    values.seen = *seen;
    return std::make_shared<ColourRange>(std::move(values));
}

// The whole photo at a level small enough to be searched for what is connected.
Area connectedArea(base::Size photo) {
    return image::wholeAt(photo, image::levelOfSide(photo, connectedSidePx));
}

// Of coverage over the whole photo: full where the colour is connected to a picked place, grown by two pixels so that
// the fine edge is the colour's own.
constexpr auto connectedTo = [](const image::Plane<float>& plane, const std::vector<ColourPick>& picks,
                                const Area& all) {
    const base::Size size = all.rect.size();
    image::Plane<std::uint8_t> alike(size);
    for (int y = 0; y < size.height; ++y) {
        std::transform(plane.row(y).begin(), plane.row(y).end(), alike.row(y).begin(),
                       [](float v) { return v > 0.1f; });
    }
    std::vector<base::Point> seeds;
    for (const ColourPick& pick : picks) seeds.push_back(all.toLevel(pick.place));
    const image::Plane<std::uint8_t> reached = kernel::floodedFrom(alike, seeds);
    image::Plane<std::uint16_t> grown(size);
    constexpr int growPx = 2;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            bool any = false;
            for (int j = std::max(0, y - growPx); j <= std::min(size.height - 1, y + growPx); ++j) {
                for (int i = std::max(0, x - growPx); i <= std::min(size.width - 1, x + growPx); ++i)
                    any = any || reached.row(j)[static_cast<std::size_t>(i)];
            }
            grown.row(y)[static_cast<std::size_t>(x)] = any ? kernel::fullCoverage : 0;
        }
    }
    return Coverage(std::move(grown));
};

constexpr auto limitedToConnected = [](const image::Plane<float>& matching, const Coverage& reached, const Area& area,
                                       const Area& all) {
    if (reached.isEmpty()) return image::filled(matching.size(), 0.0f);
    image::Plane<float> plane = image::copied(matching);
    if (reached.isConstant()) return plane;
    const base::Size size = all.rect.size();
    const double scale = area.scale() / all.scale();
    for (int y = 0; y < plane.size().height; ++y) {
        const int py = std::clamp(static_cast<int>((area.rect.y0 + y + 0.5) * scale), 0, size.height - 1);
        for (int x = 0; x < plane.size().width; ++x) {
            const int px = std::clamp(static_cast<int>((area.rect.x0 + x + 0.5) * scale), 0, size.width - 1);
            if (reached.row(py)[px] == 0) plane.row(y)[static_cast<std::size_t>(x)] = 0;
        }
    }
    return plane;
};

constexpr auto limitedToRadius = [](const image::Plane<float>& matching, const std::vector<ColourPick>& picks,
                                    double radiusPx, const Area& area) {
    image::Plane<float> plane = image::copied(matching);
    const double fade = radiusPx / 5;
    for (int y = 0; y < plane.size().height; ++y) {
        for (int x = 0; x < plane.size().width; ++x) {
            const double px = (area.rect.x0 + x + 0.5) * area.scale(), py = (area.rect.y0 + y + 0.5) * area.scale();
            double nearest = 1e12;
            for (const ColourPick& pick : picks)
                nearest = std::min(nearest, std::hypot(px - pick.place.x, py - pick.place.y));
            plane.row(y)[static_cast<std::size_t>(x)] *= static_cast<float>(fall(nearest - (radiusPx - fade), fade));
        }
    }
    return plane;
};

}  // namespace

std::span<const ColourRangeParam> colourRangeParams() {
    return params;
}

const ShapeKind ColourRange::kindInfo = {
    .id = "colour-range",
    .label = "Colour range",
    .tip = "Only these colours: like those picked on the photo, or a band of hues.",
    .makeFor = [](base::Size) -> ShapePtr { return std::make_shared<ColourRange>(ColourRangeValues{}); },
    .fromJson = colourRangeFromJson,
    .schema = colourRangeSchema,
    .group = "by tone and colour",
    .isRange = true,
};

Staged<image::Plane<float>> ColourRange::matching(const Area& area, Context& context) const {
    const PictureRead picture = context.picture(values_.seen, area);
    const double sigma = values_.smoothPx / area.scale();
    if (values_.byHue)
        return staged<image::Plane<float>>("by hue", byHue, picture, sigma, values_.hues, values_.minChromaPct);
    std::vector<colour::Lab> colours;
    for (const ColourPick& pick : values_.picks) colours.push_back(pick.colour);
    return staged<image::Plane<float>>("by picks", byPicks, picture, sigma, std::move(colours), values_.tolerance,
                                       values_.softness);
}

Staged<Coverage> ColourRange::connectedPlaces(Context& context) const {
    const Area all = connectedArea(context.photoSize());
    return inStore(context, staged<Coverage>("connected", connectedTo, matching(all, context), values_.picks, all));
}

Staged<Coverage> ColourRange::over(const Area& area, Context& context) const {
    if (!values_.byHue && values_.picks.empty()) return uniformCoverage(0);
    const BlurPlan plan = planBlur(area, values_.smoothPx);
    Staged<image::Plane<float>> plane = matching(plan.area, context);
    if (values_.connected && !values_.picks.empty())
        plane = staged<image::Plane<float>>("limited to connected", limitedToConnected, plane, connectedPlaces(context),
                                            plan.area, connectedArea(context.photoSize()));
    if (values_.radiusPx > 0 && !values_.picks.empty())
        plane = staged<image::Plane<float>>("limited to radius", limitedToRadius, plane, values_.picks,
                                            values_.radiusPx, plan.area);
    return staged<Coverage>(
        kindInfo.id,
        [](const image::Plane<float>& plane, const BlurPlan& plan, const Area& area) {
            return readBack(plane, plan, area);
        },
        plane, plan, area);
}

void ColourRange::toJson(nlohmann::json& json) const {
    json["by"] = values_.byHue ? "hue" : "picks";
    auto& picks = json["picks"] = nlohmann::json::array();
    for (const ColourPick& pick : values_.picks) picks.push_back(pickToJson(pick));
    json["hues"] = values_.hues.points;
    for (const ColourRangeParam& param : params) json[std::string(param.spec.id)] = values_.*param.value;
    json["connected"] = values_.connected;
    json["measured"] = idOf(values_.seen);
}

}  // namespace dimhem::mask
