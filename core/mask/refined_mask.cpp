#include "core/mask/refined_mask.h"

#include <algorithm>

#include "core/edge/snap.h"
#include "core/mask/gathered.h"
#include "core/mask/parts.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

namespace {

constexpr int snapBlockPx = 256;

Staged<image::Plane<float>> unrefined(const Mask& mask, const Area& area, Context& context) {
    return firstPartsOver(mask, mask.parts.size(), area, context);
}

// How far an edge may move, in pixels of the level.
double snapBand(const Refine& refine, const Area& area) {
    return std::max(2.0, (1.6 * refine.edgeSnapPx + 3) / area.scale());
}

Area snapArea(const Refine& refine, const Area& block) {
    return image::grown(block, edge::snapReach(snapBand(refine, block)));
}

constexpr auto snapBlock = [](const PhotoRead& photo, const image::Plane<float>& values, const Refine& refine,
                              const Area& block) -> CoveragePtr {
    const Area wide = snapArea(refine, block);
    const Refine before = beforeSnap(refine);
    const CoveragePtr shaped = refined(before, image::copied(values), planRefine(before, wide), wide);
    if (shaped->isConstant()) return shaped;
    const image::Plane<float> start = floatsOf(*shaped, wide.rect.size());
    const image::Plane<float> snapped =
        edge::snapped(guideOver(wide, photo), start, snapBand(refine, block), noiseAt(block.level, photo),
                      1.2 * refine.edgeSnapPx / block.scale() + 1);
    const auto strength = static_cast<float>(refine.edgeSnapPct / 100);
    const int dx = block.rect.x0 - wide.rect.x0, dy = block.rect.y0 - wide.rect.y0;
    return coverageOf(image::planeOf(block.rect.size(), [&](int x, int y) {
        const float from = start.view().at(x + dx, y + dy);
        return from + strength * (snapped.view().at(x + dx, y + dy) - from);
    }));
};

Staged<Coverage> snappedBlock(const Mask& mask, const Area& block, Context& context) {
    const Refine& refine = mask.refine;
    const Area read = planRefine(beforeSnap(refine), snapArea(refine, block)).area;
    return stage::keptForGood(context, staged<Coverage>("edge snap", snapBlock, context.photo(),
                                                        unrefined(mask, read, context), refine, block));
}

constexpr auto refine = [](const image::Plane<float>& values, const Refine& how, const BlurPlan& plan,
                           const Area& area) { return refined(how, image::copied(values), plan, area); };

Staged<Coverage> refinedAtOnce(const Mask& mask, const Area& area, Context& context) {
    const bool snaps = mask.refine.edgeSnapPx > 0;
    const Refine how = snaps ? afterSnap(mask.refine) : mask.refine;
    const BlurPlan plan = planRefine(how, area);
    const auto values = snaps ? gatheredValues(context.photoSize(), plan.area, snapBlockPx,
                                               [&](const Area& block) { return snappedBlock(mask, block, context); })
                              : unrefined(mask, plan.area, context);
    return staged<Coverage>("refined", refine, values, how, plan, area);
}

// Refining looks far around; the further, the larger the blocks it is worked out in, so that the surroundings do not
// outweigh the block. 0: the area itself will do.
int refineBlockPx(const Refine& how, const Area& area) {
    const Area read = planRefine(how, area).area;
    const int margin = (area.rect.x0 >> (read.level - area.level)) - read.rect.x0;
    return margin < 64 ? 0 : margin < 128 ? 512 : 1024;
}

}  // namespace

Staged<Coverage> refinedMask(const Mask& mask, const Area& area, Context& context) {
    const int blockPx = mask.refine.edgeSnapPx > 0 ? 0 : refineBlockPx(mask.refine, area);
    if (area.rect.width() >= blockPx && area.rect.height() >= blockPx) return refinedAtOnce(mask, area, context);
    return gathered(tilesOf(area, blockPx,
                            [&](const Area& block) {
                                return stage::kept(context, stage::asked(context, keyOf(block).add("refined").key(),
                                                                         [&mask, block, &context] {
                                                                             return refinedAtOnce(mask, block, context);
                                                                         }));
                            }),
                    area);
}

}  // namespace dimhem::mask
