#include "core/task/masked_pictures.h"

#include <algorithm>

#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"

namespace dimhem::task {

namespace {

constexpr double mostPicturePixels = 250'000;

image::EncodedPlanes pictureOf(const render::Renderer& renderer, const document::DocumentPtr& document,
                               const render::Comparison& comparison, const mask::Area& area,
                               const base::CancelToken& cancel) {
    image::EncodedPlanes picture(area.rect.size());
    base::throwIfCancelled(cancel);
    renderer.picture(render::Sequence(document, comparison, cancel), area, picture);
    return picture;
}

bool anyAbove(const image::Plane<float>& plane, float least) {
    for (int y = 0; y < plane.size().height; ++y) {
        const auto row = plane.row(y);
        if (std::any_of(row.begin(), row.end(), [=](float v) { return v > least; })) return true;
    }
    return false;
}

}  // namespace

mask::Area lookAt(const render::Renderer& renderer) {
    const base::Size size = renderer.photo().size();
    const int level = image::levelOfAtMost(size, mostPicturePixels, renderer.photo().levels() - 1);
    return {base::rectOf(image::levelSize(size, level)), level};
}

image::Plane<float> opacityOf(const render::Renderer& renderer, const mask::Area& area) {
    image::Plane<float> alpha = image::filled(area.rect.size(), 1.0f);
    if (renderer.photo().photo().samples.hasAlpha()) {
        image::EncodedPlanes unused(area.rect.size());
        renderer.photo().read(area.rect, area.level, unused, &alpha);
    }
    return alpha;
}

std::optional<MaskedPictures> maskedPictures(const render::Renderer& renderer, const document::DocumentPtr& document,
                                             document::Id correction, const base::CancelToken& cancel) {
    MaskedPictures out;
    out.area = lookAt(renderer);
    const mask::CoveragePtr coverage = renderer.coverage(render::Sequence(document, {}, cancel), correction, out.area);
    if (coverage->isEmpty()) return std::nullopt;
    out.weights = opacityOf(renderer, out.area);
    for (int y = 0; y < out.area.rect.height(); ++y) {
        for (int x = 0; x < out.area.rect.width(); ++x) {
            const std::uint16_t covered = coverage->isConstant() ? coverage->value() : coverage->row(y)[x];
            out.weights.row(y)[static_cast<std::size_t>(x)] *= static_cast<float>(covered) / kernel::fullCoverage;
        }
    }
    if (!anyAbove(out.weights, 0)) return std::nullopt;  // all of it transparent
    render::Comparison before, after;
    before.stopBefore = correction;
    after.stopAfter = correction;
    out.before = pictureOf(renderer, document, before, out.area, cancel);
    out.after = pictureOf(renderer, document, after, out.area, cancel);
    return out;
}

std::optional<MaskedPictures> wholePictures(const render::Renderer& renderer, const document::DocumentPtr& document,
                                            const base::CancelToken& cancel) {
    MaskedPictures out;
    out.area = lookAt(renderer);
    out.weights = opacityOf(renderer, out.area);
    if (!anyAbove(out.weights, 0)) return std::nullopt;
    render::Comparison allOff;
    allOff.allOff = true;
    out.before = pictureOf(renderer, document, allOff, out.area, cancel);
    out.after = pictureOf(renderer, document, {}, out.area, cancel);
    return out;
}

}  // namespace dimhem::task
