#include "core/mask/solved_zone.h"

#include <algorithm>

#include "core/edge/solved_matte.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/brush.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

namespace {

constexpr int blockPx = 192, overlapPx = 32, samplesPx = 128;
constexpr float leastZone = 0.5f;

Area wideOf(const Area& block) {
    return {base::grown(block.rect, overlapPx + samplesPx), block.level};
}

// Without the stroke in hand: solving does not keep up with it.
std::shared_ptr<const Shape> settled(const Shape& zone) {
    const auto* painted = dynamic_cast<const Brush*>(&zone);
    const bool goesOn = painted && !painted->strokes().empty() && !painted->strokes().back()->isFinished();
    if (goesOn) return painted->withoutLast();
    return {std::shared_ptr<const Shape>(), &zone};
}

bool touches(const Shape& zone, const Area& area) {
    return zone.uniformOn(area) != std::uint16_t{0};
}

base::ContentKey blockKey(const Shape& zone, const MaskBefore& before, const Area& block, Context& context) {
    const Area wide = wideOf(block);
    return keyOf(block)
        .add("solved zone")
        .add(zone.keyOn(wide, context))
        .add(before.key(wide))
        .add(context.pictureKey(Seen::photo, wide))
        .key();
}

std::shared_ptr<const Coverage> solvedBlock(const Shape& zone, const MaskBefore& before, const Area& block,
                                            Context& context) {
    return madeOnce<Coverage>(
        context, blockKey(zone, before, block, context),
        [&]() -> CoveragePtr {
            const Area wide = wideOf(block);
            const image::Plane<float> painted = floatsOf(*zone.render(wide, context), wide.rect.size());
            image::Plane<std::uint8_t> unknown(wide.rect.size());
            for (int y = 0; y < unknown.size().height; ++y)
                std::ranges::transform(painted.row(y), unknown.row(y).begin(),
                                       [](float c) -> std::uint8_t { return c >= leastZone; });
            image::EncodedPlanes picture(wide.rect.size());
            context.readPicture(Seen::photo, wide, picture);
            const base::Rect core{overlapPx + samplesPx, overlapPx + samplesPx,
                                  overlapPx + samplesPx + block.rect.width(),
                                  overlapPx + samplesPx + block.rect.height()};
            const base::Point at{static_cast<double>(wide.rect.x0), static_cast<double>(wide.rect.y0)};
            const image::Plane<float> solved =
                edge::solvedMatte(kernel::decoded(std::move(picture)), at, before.read(wide), unknown,
                                  base::grown(core, overlapPx), {.noise = noiseAt(block.level, context)});
            return coverageOf(image::cropped(solved, core));
        },
        [](const Coverage& coverage) { return coverage.bytes(); });
}

}  // namespace

base::ContentKey solvedKey(const Shape& shape, const MaskBefore& before, const Area& area, Context& context) {
    const auto settledZone = settled(shape);
    const Shape& zone = *settledZone;
    base::KeyBuilder key;
    key.add(before.key(area));
    forEachTile(area, blockPx, [&](const Area& block) {
        if (touches(zone, block)) key.add(blockKey(zone, before, block, context));
    });
    return key.key();
}

CoveragePtr solvedOver(const Shape& shape, const MaskBefore& before, const Area& area, Context& context) {
    const auto settledZone = settled(shape);
    const Shape& zone = *settledZone;
    image::Plane<float> out = before.read(area);
    forEachTile(area, blockPx, [&](const Area& block) {
        if (!touches(zone, block)) return;
        const auto solved = solvedBlock(zone, before, block, context);
        image::copyShared(floatsOf(*solved, block.rect.size()), block.rect, out, area.rect);
    });
    return coverageOf(out);
}

}  // namespace dimhem::mask
