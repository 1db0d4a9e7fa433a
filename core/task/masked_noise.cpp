#include "core/task/masked_noise.h"

#include <algorithm>

#include "core/adjust/noise_level.h"
#include "core/edge/transmission.h"
#include "core/image/tiles.h"
#include "core/kernel/srgb_rows.h"
#include "core/task/measuring.h"

namespace dimhem::task {

namespace {

constexpr int tilePx = 128;
constexpr std::size_t fewestBlocks = 64;

render::Sequence sequenceTo(const document::DocumentPtr& document, document::Id correction, bool with,
                            const base::CancelToken& cancel) {
    render::Comparison comparison;
    (with ? comparison.stopAfter : comparison.stopBefore) = correction;
    return render::Sequence(document, comparison, cancel);
}

// Tiles of the photo that the mask covers most of, some of them, evenly.
std::vector<base::Rect> tilesUnder(const render::Renderer& renderer, const render::Sequence& sequence,
                                   document::Id correction) {
    constexpr std::size_t most = 24;
    constexpr int coarse = 5;  // four by four pixels a tile
    const base::Size size = renderer.photo().size(), small = image::levelSize(size, coarse);
    const image::Plane<float> coverage =
        mask::floatsOf(*renderer.coverage(sequence, correction, {base::rectOf(small), coarse}), small);
    std::vector<base::Rect> covered;
    image::TileGrid(size, tilePx).forEach(base::rectOf(size), [&](const base::Rect& tile) {
        const base::Rect at = base::intersected(image::levelRect(tile, coarse), base::rectOf(small));
        float sum = 0;
        for (int y = at.y0; y < at.y1; ++y) {
            for (int x = at.x0; x < at.x1; ++x) sum += coverage.row(y)[static_cast<std::size_t>(x)];
        }
        if (sum > 0.5f * static_cast<float>(at.width() * at.height())) covered.push_back(tile);
    });
    const std::size_t step = std::max<std::size_t>(1, (covered.size() + most - 1) / most);
    std::vector<base::Rect> some;
    for (std::size_t i = step / 2; i < covered.size(); i += step) some.push_back(covered[i]);
    return some;
}

image::EncodedPlanes pictureOf(const render::Renderer& renderer, const render::Sequence& sequence,
                               const mask::Area& area) {
    image::EncodedPlanes picture(area.rect.size());
    renderer.picture(sequence, area, picture);
    return picture;
}

std::optional<NoiseAndHaze> noiseIn(const render::Renderer& renderer, const render::Sequence& sequence,
                                    const render::Sequence& masks, document::Id correction,
                                    const std::vector<base::Rect>& tiles) {
    adjust::NoiseMeter meter;
    for (const base::Rect& tile : tiles) {
        const mask::Area area{tile, 0};
        meter.add(pictureOf(renderer, sequence, area),
                  mask::floatsOf(*renderer.coverage(masks, correction, area), tile.size()));
    }
    const adjust::NoiseLevel level = meter.level();
    if (level.y.blocks < fewestBlocks) return std::nullopt;
    return NoiseAndHaze{255 * level.y.overall, 255 * std::max(level.u.overall, level.v.overall), std::nullopt};
}

double hazeIn(const image::LinearPlanes& picture, const colour::LinearRgb& air, const image::Plane<float>& coverage) {
    const image::Plane<float> t = edge::transmission(picture, edge::transmissionLines(picture, air), air);
    double sum = 0, all = 1e-9;
    for (int y = 0; y < t.size().height; ++y) {
        for (std::size_t x = 0; x < t.row(y).size(); ++x) {
            sum += double{coverage.row(y)[x]} * (1 - double{t.row(y)[x]});
            all += double{coverage.row(y)[x]};
        }
    }
    return 100 * sum / all;
}

// Whether it has grain to lay on, or fills or paints: what should look like what is beside it.
bool laysDown(const document::Correction& correction) {
    return document::paints(correction) ||
           std::ranges::any_of(correction.adjustments,
                               [](const document::AdjustmentUse& use) { return use.enabled && use.kind->laysGrain; });
}

std::optional<double> noiseBeside(const render::Renderer& renderer, const document::DocumentPtr& document,
                                  const render::Sequence& after, const document::Correction& correction,
                                  const base::CancelToken& cancel) {
    const auto subject = subjectOf(renderer, document, correction.id, correction.adjustments[0].id, cancel);
    adjust::NoiseMeter meter;
    for (const base::Rect& tile : adjust::tilesBeside(*subject, 0))
        meter.add(pictureOf(renderer, after, {tile, 0}), adjust::uncovered(*subject, tile, 0));
    const adjust::NoiseLevel level = meter.level();
    if (level.y.blocks < fewestBlocks) return std::nullopt;
    return 255 * level.y.overall;
}

bool takesHazeOff(const document::Correction& correction) {
    return std::ranges::any_of(correction.adjustments,
                               [](const document::AdjustmentUse& use) { return use.kind->changesHaze; });
}

}  // namespace

std::optional<MaskedNoise> maskedNoise(const render::Renderer& renderer, const document::DocumentPtr& document,
                                       document::Id correction, const base::CancelToken& cancel) {
    const document::Correction* found = document::findCorrection(*document, correction);
    if (!found) return std::nullopt;
    const render::Sequence masks(document, {}, cancel), before = sequenceTo(document, correction, false, cancel),
                                                        after = sequenceTo(document, correction, true, cancel);
    const std::vector<base::Rect> tiles = tilesUnder(renderer, masks, correction);
    const auto was = noiseIn(renderer, before, masks, correction, tiles),
               is = noiseIn(renderer, after, masks, correction, tiles);
    if (!was || !is) return std::nullopt;
    MaskedNoise out{*was, *is, {}};
    if (laysDown(*found)) out.beside = noiseBeside(renderer, document, after, *found, cancel);
    if (takesHazeOff(*found)) {
        const int level = image::levelOfSide(renderer.photo().size(), edge::hazeSide);
        const mask::Area whole{base::rectOf(image::levelSize(renderer.photo().size(), level)), level};
        const image::Plane<float> coverage =
            mask::floatsOf(*renderer.coverage(masks, correction, whole), whole.rect.size());
        const image::LinearPlanes hazy = kernel::decoded(pictureOf(renderer, before, whole));
        const colour::LinearRgb air = edge::airLight(hazy);
        out.before.hazePct = hazeIn(hazy, air, coverage);
        out.after.hazePct = hazeIn(kernel::decoded(pictureOf(renderer, after, whole)), air, coverage);
    }
    return out;
}

}  // namespace dimhem::task
