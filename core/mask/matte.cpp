#include "core/mask/matte.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/json/fields.h"
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
};

Matte::Matte(std::string file, MattePixels pixels)
    : file_(std::move(file)), pixels_(std::move(pixels)), pixelsKey_(keyOf(pixels_)) {}

base::ContentKey Matte::keyOn(const Area& area, Context& context) const {
    base::KeyBuilder key = mask::keyOf(area);
    key.add(kindInfo.id).add(isAlpha());
    return isAlpha() ? key.add(context.pictureKey(Seen::photo, area)).key() : key.add(pixelsKey_).key();
}

CoveragePtr Matte::render(const Area& area, Context& context) const {
    if (!isAlpha()) return renderPicture(area, context.photoSize());
    image::Plane<float> alpha(area.rect.size());
    if (!context.readAlpha(area, alpha)) return std::make_shared<Coverage>(std::uint16_t{0});
    image::Plane<std::uint16_t> out(area.rect.size());
    for (int y = 0; y < area.rect.height(); ++y) {
        std::transform(alpha.row(y).begin(), alpha.row(y).end(), out.row(y).begin(), [](float v) {
            return static_cast<std::uint16_t>(std::clamp(v, 0.0f, 1.0f) * kernel::fullCoverage + 0.5f);
        });
    }
    return std::make_shared<Coverage>(std::move(out));
}

CoveragePtr Matte::renderPicture(const Area& area, base::Size photo) const {
    if (!pixels_) return std::make_shared<Coverage>(std::uint16_t{0});
    // A pixel of the area covers this many of the picture; it takes their mean.
    const double stepX = area.scale() * pixels_->size().width / photo.width,
                 stepY = area.scale() * pixels_->size().height / photo.height;
    const int samples = std::clamp(static_cast<int>(std::ceil(std::max(stepX, stepY))), 1, 16);
    image::Plane<std::uint16_t> out(area.rect.size());
    for (int y = 0; y < area.rect.height(); ++y) {
        for (int x = 0; x < area.rect.width(); ++x) {
            double sum = 0;
            for (int j = 0; j < samples; ++j) {
                for (int i = 0; i < samples; ++i) {
                    sum += kernel::bilinear(*pixels_, (area.rect.x0 + x + (i + 0.5) / samples) * stepX,
                                            (area.rect.y0 + y + (j + 0.5) / samples) * stepY);
                }
            }
            out.row(y)[static_cast<std::size_t>(x)] = static_cast<std::uint16_t>(sum / (samples * samples) + 0.5);
        }
    }
    return std::make_shared<Coverage>(std::move(out));
}

void Matte::toJson(nlohmann::json& json) const {
    json["source"] = isAlpha() ? "alpha" : "file";
    if (!isAlpha()) fields::writePath(json, "file", file_);
}

}  // namespace dimhem::mask
