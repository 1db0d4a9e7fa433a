#include "bench/edges/strokes.h"

#include <algorithm>
#include <cmath>

#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/signed_distance.h"

namespace dimhem::edges {

namespace {

using Points = std::vector<mask::StrokePoint>;

bool isWithin(base::Size size, double x, double y) {
    return x >= 1 && y >= 1 && x < size.width - 1 && y < size.height - 1;
}

}  // namespace

Points rimStroke(const image::Plane<float>& matte, double radius, std::mt19937& random, double closePx) {
    const kernel::DistanceField field = kernel::signedDistance(matte);
    const base::Size size = matte.size();
    const auto uniform = [&] { return random() / 4294967296.0; };
    const double depth = closePx > 0 ? closePx : radius * (0.2 + 0.2 * uniform());
    for (int attempt = 0; attempt < 4000; ++attempt) {
        double x = uniform() * size.width, y = uniform() * size.height;
        if (!isWithin(size, x, y) ||
            std::abs(field.distance.row(static_cast<int>(y))[static_cast<std::size_t>(x)] + depth) > 1.5)
            continue;
        Points points;
        const int steps = 22;
        // Walks along the line of that depth, the edge always on the same hand.
        for (int i = 0; i < steps && isWithin(size, x, y); ++i) {
            const auto cx = static_cast<std::size_t>(x);
            const int cy = static_cast<int>(y);
            const double nx = double{field.towardsX.row(cy)[cx]}, ny = double{field.towardsY.row(cy)[cx]};
            const double off = double{field.distance.row(cy)[cx]} + depth;
            x -= nx * off;
            y -= ny * off;
            if (!isWithin(size, x, y) || field.distance.row(static_cast<int>(y))[static_cast<std::size_t>(x)] >
                                             -std::min(0.1 * radius, 0.5 * depth))
                break;
            points.push_back({{x, y}, 1});
            x -= ny * 0.15 * radius;
            y += nx * 0.15 * radius;
        }
        if (points.size() == steps) return points;
    }
    return {};
}

std::vector<Points> overTheWhole(const image::Plane<float>& matte, double radius, double insidePx) {
    const kernel::DistanceField field = kernel::signedDistance(matte);
    std::vector<Points> strokes;
    const int step = std::max(2, static_cast<int>(radius * 0.35));
    for (int y = step / 2; y < matte.size().height; y += step) {
        int begun = -1;
        for (int x = 0; x <= matte.size().width; ++x) {
            const bool inside =
                x < matte.size().width && double{field.distance.row(y)[static_cast<std::size_t>(x)]} < -insidePx;
            if (inside && begun < 0) begun = x;
            if (!inside && begun >= 0) {
                strokes.push_back({{{begun + 0.5, y + 0.5}, 1}, {{x - 0.5, y + 0.5}, 1}});
                begun = -1;
            }
        }
    }
    return strokes;
}

document::DocumentPtr documentWith(mask::ShapePtr shape) {
    const document::Added added = document::withNewCorrection(document::Document{}, 0);
    return document::withNewPart(*added.document, added.id, std::move(shape), mask::Combine::add).document;
}

image::Plane<float> maskOf(const std::shared_ptr<const render::PhotoSource>& photo,
                           const document::DocumentPtr& document) {
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
    const render::Sequence sequence(document, {});
    const image::TileGrid grid(photo->size(), image::defaultTilePx);
    image::Plane<float> out(photo->size());
    const std::size_t tiles = static_cast<std::size_t>(grid.columns()) * static_cast<std::size_t>(grid.rows());
    base::parallelForAll(tiles, {}, {}, [&](std::size_t i) {
        const base::Rect rect = grid.tile(static_cast<int>(i) % grid.columns(), static_cast<int>(i) / grid.columns());
        const auto coverage = renderer.coverage(sequence, document->corrections.front()->id, {rect, 0});
        const image::Plane<std::uint16_t> values = coverage->copy(rect.size());
        for (int y = 0; y < rect.height(); ++y) {
            for (int x = 0; x < rect.width(); ++x)
                out.row(rect.y0 + y)[static_cast<std::size_t>(rect.x0 + x)] =
                    static_cast<float>(values.row(y)[static_cast<std::size_t>(x)]) / kernel::fullCoverage;
        }
    });
    return out;
}

mask::ShapePtr brushOf(const std::vector<Points>& strokes, const mask::BrushSettings& settings) {
    std::vector<mask::StrokePtr> made;
    for (const Points& points : strokes) made.push_back(mask::Stroke::through(settings, points)->finished());
    return std::make_shared<mask::Brush>(std::move(made));
}

}  // namespace dimhem::edges
