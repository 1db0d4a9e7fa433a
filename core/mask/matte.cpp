#include "core/mask/matte.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/bilinear.h"
#include "core/kernel/coverage_rows.h"

namespace dimhem::mask {

namespace {

base::ContentKey keyOf(const MattePixels& pixels) {
    base::KeyBuilder key;
    if (!pixels) return key.key();
    key.add(pixels->size().width).add(pixels->size().height);
    for (int y = 0; y < pixels->size().height; ++y) {
        key.add(base::keyOfBytes(pixels->row(y).data(), pixels->row(y).size_bytes()));
    }
    return key.key();
}

constexpr auto alphaOver = [](const std::optional<image::Plane<float>>& alpha) {
    return alpha ? coverageOf(*alpha) : std::make_shared<const Coverage>(std::uint16_t{0});
};

// A pixel of the area covers some of the picture's; it takes their mean.
constexpr auto pictureOver = [](const image::Plane<std::uint16_t>& pixels, const Area& area, base::Size photo) {
    const double stepX = area.scale() * pixels.size().width / photo.width,
                 stepY = area.scale() * pixels.size().height / photo.height;
    const int samples = std::clamp(static_cast<int>(std::ceil(std::max(stepX, stepY))), 1, 16);
    image::Plane<std::uint16_t> out(area.rect.size());
    for (int y = 0; y < area.rect.height(); ++y) {
        for (int x = 0; x < area.rect.width(); ++x) {
            double sum = 0;
            for (int j = 0; j < samples; ++j) {
                for (int i = 0; i < samples; ++i) {
                    sum += kernel::bilinear(pixels, (area.rect.x0 + x + (i + 0.5) / samples) * stepX,
                                            (area.rect.y0 + y + (j + 0.5) / samples) * stepY);
                }
            }
            out.row(y)[static_cast<std::size_t>(x)] = static_cast<std::uint16_t>(sum / (samples * samples) + 0.5);
        }
    }
    return Coverage(std::move(out));
};

base::Result<ShapePtr> matteFromJson(const nlohmann::json& json) {
    const auto source = fields::readText(json, "source", "");
    if (!source) return tl::unexpected(source.error());
    if (*source == "alpha") return std::make_shared<Matte>();
    if (*source != "file") return fields::wrongField("source", "\"alpha\" or \"file\"");
    const auto file = fields::readPath(json, "file");
    if (!file) return tl::unexpected(file.error());
    if (file->empty()) return fields::wrongField("file", "the place of a picture");
    return std::make_shared<Matte>(*file, nullptr);
}

}  // namespace

const ShapeKind Matte::kindInfo = {
    .id = "matte",
    .label = "Matte",
    .tip = "The photo's own alpha, or a grey picture made elsewhere.",
    .makeFor = [](base::Size) -> ShapePtr { return std::make_shared<Matte>(); },
    .fromJson = matteFromJson,
    .schema =
        [] {
            schema::Schema file = schema::text();
            file["minLength"] = 1;
            return schema::Members{
                .properties = {{"source", schema::oneOf({"alpha", "file"})}, {"file", file}, {"file-encoded", file}},
                .required = {"source"},
                .rules = {{"if", {{"properties", {{"source", {{"const", "file"}}}}}}},
                          {"then", {{"anyOf", {{{"required", {"file"}}}, {{"required", {"file-encoded"}}}}}}}}};
        },
    .group = "from elsewhere",
};

Matte::Matte(std::string file, MattePixels pixels)
    : file_(std::move(file)), pixels_(std::move(pixels)), pixelsKey_(keyOf(pixels_)) {}

Staged<Coverage> Matte::over(const Area& area, Context& context) const {
    if (isAlpha()) return staged<Coverage>("alpha matte", alphaOver, context.alpha(area));
    if (!pixels_) return uniformCoverage(0);
    return staged<Coverage>(kindInfo.id, pictureOver, stage::keyed(pixelsKey_, *pixels_), area, context.photoSize());
}

void Matte::toJson(nlohmann::json& json) const {
    json["source"] = isAlpha() ? "alpha" : "file";
    if (!isAlpha()) fields::writePath(json, "file", file_);
}

}  // namespace dimhem::mask
