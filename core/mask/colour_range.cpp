#include "core/mask/colour_range.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <numbers>

#include "core/colour/hsl.h"
#include "core/image/tiles.h"
#include "core/json/fields.h"
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

double hueWeight(const ColourRangeValues& values, double r, double g, double b) {
    const double chroma = (std::max({r, g, b}) - std::min({r, g, b})) * 100;
    if (chroma <= values.minChromaPct / 2) return 0;
    return weightOnCircle(values.hues, colour::hslHueDeg({r, g, b})) *
           fall(values.minChromaPct - chroma, values.minChromaPct / 2);
}

image::Plane<float> byHue(const ColourRangeValues& values, const image::EncodedPlanes& picture) {
    return image::planeOf(picture.size(), [&](int x, int y) {
        return static_cast<float>(hueWeight(values, picture.red.row(y)[static_cast<std::size_t>(x)],
                                            picture.green.row(y)[static_cast<std::size_t>(x)],
                                            picture.blue.row(y)[static_cast<std::size_t>(x)]));
    });
}

image::Plane<float> byPicks(const ColourRangeValues& values, image::EncodedPlanes& picture) {
    std::vector<colour::Lab> colours;
    for (const ColourPick& pick : values.picks) colours.push_back(pick.colour);
    const double none = values.tolerance + values.softness;
    const WeightTable weight(values.tolerance, none,
                             [&](double distance) { return fall(distance - values.tolerance, values.softness); });
    const auto width = static_cast<std::size_t>(picture.size().width);
    image::Plane<float> out(picture.size());
    for (int y = 0; y < picture.size().height; ++y) {
        const kernel::EncodedRow row = kernel::rowOf(picture, y);
        kernel::labRow(row, width);
        float* to = out.row(y).data();
        kernel::nearestColourRow(row.red, row.green, row.blue, colours, toneWeight, to, width);
        for (std::size_t x = 0; x < width; ++x) {
            const bool fades = values.softness > 0 && to[x] < none;
            to[x] = to[x] <= values.tolerance ? 1.0f : fades ? weight(to[x]) : 0.0f;
        }
    }
    return out;
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
Area connectedArea(Context& context) {
    const base::Size photo = context.photoSize();
    const int level = image::levelOfSide(photo, connectedSidePx);
    return {base::rectOf(image::levelSize(photo, level)), level};
}

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
    .isRange = true,
};

base::ContentKey ColourRange::valuesKey() const {
    base::KeyBuilder key;
    key.add(kindInfo.id).add(values_.byHue).add(values_.connected).add(values_.seen);
    for (const ColourRangeParam& param : params) key.add(values_.*param.value);
    key.add(std::span<const double>(values_.hues.points));
    for (const ColourPick& pick : values_.picks) {
        key.add(pick.place.x).add(pick.place.y).add(pick.colour.l).add(pick.colour.a).add(pick.colour.b);
    }
    return key.key();
}

base::ContentKey ColourRange::keyOn(const Area& area, Context& context) const {
    base::KeyBuilder key = keyOf(area);
    key.add(valuesKey()).add(context.pictureKey(values_.seen, planBlur(area, values_.smoothPx).area));
    // What is connected may hang on anything in the photo.
    if (values_.connected && !values_.picks.empty()) key.add(connectedKey(context));
    return key.key();
}

image::Plane<float> ColourRange::matching(const Area& area, Context& context) const {
    image::EncodedPlanes picture(area.rect.size());
    context.readPicture(values_.seen, area, picture);
    const double sigma = values_.smoothPx / area.scale();
    for (image::Plane<float>* plane : {&picture.red, &picture.green, &picture.blue})
        kernel::gaussianBlur(*plane, sigma);
    return values_.byHue ? byHue(values_, picture) : byPicks(values_, picture);
}

CoveragePtr ColourRange::render(const Area& area, Context& context) const {
    if (!values_.byHue && values_.picks.empty()) return std::make_shared<Coverage>(std::uint16_t{0});
    const BlurPlan plan = planBlur(area, values_.smoothPx);
    image::Plane<float> plane = matching(plan.area, context);
    if (values_.connected && !values_.picks.empty()) limitToConnected(plane, plan.area, context);
    if (values_.radiusPx > 0 && !values_.picks.empty()) limitToRadius(plane, plan.area);
    return readBack(plane, plan, area);
}

base::ContentKey ColourRange::connectedKey(Context& context) const {
    const Area all = connectedArea(context);
    return keyOf(all).add(valuesKey()).add("connected").add(context.pictureKey(values_.seen, all)).key();
}

// Over the whole photo at a level small enough: full where the colour is connected to a picked place, grown by two
// pixels so that the fine edge is the colour's own.
CoveragePtr ColourRange::connectedPlaces(Context& context) const {
    const Area all = connectedArea(context);
    const base::ContentKey key = connectedKey(context);
    if (CoveragePtr known = context.find(key)) return known;
    const image::Plane<float> plane = matching(all, context);
    const base::Size size = all.rect.size();
    image::Plane<std::uint8_t> alike(size);
    for (int y = 0; y < size.height; ++y) {
        std::transform(plane.row(y).begin(), plane.row(y).end(), alike.row(y).begin(),
                       [](float v) { return v > 0.1f; });
    }
    std::vector<base::Point> seeds;
    for (const ColourPick& pick : values_.picks) seeds.push_back(all.toLevel(pick.place));
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
    const auto coverage = std::make_shared<Coverage>(std::move(grown));
    context.keep(key, coverage);
    return coverage;
}

void ColourRange::limitToConnected(image::Plane<float>& plane, const Area& area, Context& context) const {
    const CoveragePtr reached = connectedPlaces(context);
    if (reached->isConstant()) {
        if (reached->isEmpty()) {
            for (int y = 0; y < plane.size().height; ++y) std::fill(plane.row(y).begin(), plane.row(y).end(), 0.0f);
        }
        return;
    }
    const Area all = connectedArea(context);
    const base::Size size = all.rect.size();
    const double scale = area.scale() / all.scale();
    for (int y = 0; y < plane.size().height; ++y) {
        const int py = std::clamp(static_cast<int>((area.rect.y0 + y + 0.5) * scale), 0, size.height - 1);
        for (int x = 0; x < plane.size().width; ++x) {
            const int px = std::clamp(static_cast<int>((area.rect.x0 + x + 0.5) * scale), 0, size.width - 1);
            if (reached->row(py)[px] == 0) plane.row(y)[static_cast<std::size_t>(x)] = 0;
        }
    }
}

void ColourRange::limitToRadius(image::Plane<float>& plane, const Area& area) const {
    const double fade = values_.radiusPx / 5;
    for (int y = 0; y < plane.size().height; ++y) {
        for (int x = 0; x < plane.size().width; ++x) {
            const double px = (area.rect.x0 + x + 0.5) * area.scale(), py = (area.rect.y0 + y + 0.5) * area.scale();
            double nearest = 1e12;
            for (const ColourPick& pick : values_.picks)
                nearest = std::min(nearest, std::hypot(px - pick.place.x, py - pick.place.y));
            plane.row(y)[static_cast<std::size_t>(x)] *=
                static_cast<float>(fall(nearest - (values_.radiusPx - fade), fade));
        }
    }
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
