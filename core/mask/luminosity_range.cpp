#include "core/mask/luminosity_range.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/lab_rows.h"
#include "core/mask/blur_plan.h"
#include "core/mask/weight_table.h"

namespace dimhem::mask {

namespace {

image::Plane<float> lightnessOf(const image::EncodedPlanes& picture) {
    image::Plane<float> out(picture.size());
    for (int y = 0; y < picture.size().height; ++y)
        kernel::lightnessRow(kernel::rowOf(picture, y), out.row(y).data(),
                             static_cast<std::size_t>(picture.size().width));
    return out;
}

base::Result<ShapePtr> luminosityRangeFromJson(const nlohmann::json& json) {
    const auto tones = readRange(json, "tones", 0, 100);
    if (!tones) return tl::unexpected(tones.error());
    const auto seen = readSeen(json);
    if (!seen) return tl::unexpected(seen.error());
    const auto smooth = fields::readParam(json, rangeSmoothSpec);
    if (!smooth) return tl::unexpected(smooth.error());
    return std::make_shared<LuminosityRange>(LuminosityRangeValues{*tones, *seen, *smooth});
}

}  // namespace

const base::ParamSpec rangeSmoothSpec = {
    .id = "smooth",
    .label = "Even out",
    .unit = "px",
    .max = 50,
    .neutral = 2,
    .step = 0.5,
    .decimals = 1,
    .tip = "Evens out noise before the range is measured, in pixels of the photo."};

const ShapeKind LuminosityRange::kindInfo = {
    .id = "luminosity-range",
    .label = "Luminosity range",
    .tip = "Only these tones: the shadows, the sky, the glare.",
    .makeFor = [](base::Size) -> ShapePtr { return std::make_shared<LuminosityRange>(LuminosityRangeValues{}); },
    .fromJson = luminosityRangeFromJson,
    .schema =
        [] {
            return schema::Members{.properties = {{"tones", schema::fourRising(0, 100)},
                                                  {"smooth", schema::of(rangeSmoothSpec)},
                                                  {"measured", schema::oneOf({"photo", "arriving"})}},
                                   .required = {"tones"}};
        },
    .group = "by tone and colour",
    .isRange = true,
};

std::string_view idOf(Seen seen) {
    return seen == Seen::photo ? "photo" : "arriving";
}

base::Result<Seen> readSeen(const nlohmann::json& object) {
    const auto text = fields::readText(object, "measured", "photo");
    if (!text) return tl::unexpected(text.error());
    if (*text != "photo" && *text != "arriving") return fields::wrongField("measured", "\"photo\" or \"arriving\"");
    return *text == "photo" ? Seen::photo : Seen::arriving;
}

Staged<Coverage> LuminosityRange::over(const Area& area, Context& context) const {
    const BlurPlan plan = planBlur(area, values_.smoothPx);
    return staged<Coverage>(
        kindInfo.id,
        [](const image::EncodedPlanes& picture, const Range& tones, const BlurPlan& plan, const Area& area) {
            image::Plane<float> tone = lightnessOf(picture);
            kernel::gaussianBlur(tone, plan.sigma);
            const WeightTable weight(0, 100, [&](double lightness) { return weightOn(tones, lightness); });
            for (int y = 0; y < tone.size().height; ++y)
                std::transform(tone.row(y).begin(), tone.row(y).end(), tone.row(y).begin(), weight);
            return readBack(tone, plan, area);
        },
        context.picture(values_.seen, plan.area), values_.tones, plan, area);
}

void LuminosityRange::toJson(nlohmann::json& json) const {
    json["tones"] = values_.tones.points;
    json["measured"] = idOf(values_.seen);
    json["smooth"] = values_.smoothPx;
}

}  // namespace dimhem::mask
