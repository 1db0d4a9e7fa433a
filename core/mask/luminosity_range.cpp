#include "core/mask/luminosity_range.h"

#include <algorithm>
#include <array>
#include <nlohmann/json.hpp>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/json/fields.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/blur_plan.h"

namespace dimhem::mask {

namespace {

// Weights of a range over L* 0..100, finely tabled; beyond, those of the ends.
class Table {
public:
    explicit Table(const Range& range) {
        for (std::size_t i = 0; i < values_.size(); ++i)
            values_[i] = static_cast<float>(weightOn(range, static_cast<double>(i) / perUnit));
    }
    float operator()(float lightness) const {
        const float at = std::clamp(lightness, 0.0f, 100.0f) * perUnit;
        const auto i = std::min(static_cast<std::size_t>(at), values_.size() - 2);
        const float f = at - static_cast<float>(i);
        return values_[i] * (1 - f) + values_[i + 1] * f;
    }

private:
    static constexpr int perUnit = 40;
    std::array<float, 100 * perUnit + 1> values_;
};

image::Plane<float> lightnessOf(image::EncodedPlanes& picture) {
    const base::Size size = picture.size();
    image::Plane<float> out(size);
    const auto width = static_cast<std::size_t>(size.width);
    for (int y = 0; y < size.height; ++y) {
        float *r = picture.red.row(y).data(), *g = picture.green.row(y).data(), *b = picture.blue.row(y).data();
        kernel::decodeRow(r, width);
        kernel::decodeRow(g, width);
        kernel::decodeRow(b, width);
        float* to = out.row(y).data();
        for (std::size_t x = 0; x < width; ++x) {
            const double luminance = colour::lumaR * r[x] + colour::lumaG * g[x] + colour::lumaB * b[x];
            to[x] = static_cast<float>(colour::lightness(luminance));
        }
    }
    return out;
}

base::Result<ShapePtr> fromJson(const nlohmann::json& json) {
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
    .label = "Smooth",
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
    .fromJson = fromJson,
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

base::ContentKey LuminosityRange::keyOn(const Area& area, Context& context) const {
    const BlurPlan plan = planBlur(area, values_.smoothPx);
    return keyOf(area)
        .add(kindInfo.id)
        .add(std::span<const double>(values_.tones.points))
        .add(values_.smoothPx)
        .add(context.pictureKey(values_.seen, plan.area))
        .key();
}

CoveragePtr LuminosityRange::render(const Area& area, Context& context) const {
    const BlurPlan plan = planBlur(area, values_.smoothPx);
    image::EncodedPlanes picture(plan.area.rect.size());
    context.readPicture(values_.seen, plan.area, picture);
    image::Plane<float> tone = lightnessOf(picture);
    kernel::gaussianBlur(tone, plan.sigma);
    const Table weight(values_.tones);
    for (int y = 0; y < tone.size().height; ++y)
        std::transform(tone.row(y).begin(), tone.row(y).end(), tone.row(y).begin(), weight);
    return readBack(tone, plan, area);
}

void LuminosityRange::toJson(nlohmann::json& json) const {
    json["tones"] = values_.tones.points;
    json["measured"] = idOf(values_.seen);
    json["smooth"] = values_.smoothPx;
}

}  // namespace dimhem::mask
