#include "core/mask/bringer.h"
#include "core/repair/carried.h"
#include "core/repair/membrane.h"

namespace dimhem::mask {

namespace {

using image::EncodedPlanes;

constexpr int lineBlockPx = 2 * image::defaultTilePx, lineMarginPx = 64;  // filled piece by piece

constexpr auto fillBlock = [](const BeforeStroke& before, const base::Rect& rect) {
    EncodedPlanes planes = before.picture(rect);
    const repair::Hole hole = repair::holeIn(before.coverage(rect));
    constexpr double evenPx = 0.7;
    if (before.stroke()->isFinished()) {
        repair::fillAlong(planes, hole, {}, evenPx, repair::Elsewhere::patches);
    } else {  // while it is being drawn, smoothly: there is no time for more
        image::Plane<float>* const channels[] = {&planes.red, &planes.green, &planes.blue};
        repair::fillMembrane(channels, hole);
    }
    return planes;
};

EncodedPlanes lineOver(const BeforeStroke& before, const base::Rect& tile) {
    const int bx = base::floorDiv(tile.x0, lineBlockPx) * lineBlockPx,
              by = base::floorDiv(tile.y0, lineBlockPx) * lineBlockPx;
    const base::Rect rect = base::intersected(base::grown({bx, by, bx + lineBlockPx, by + lineBlockPx}, lineMarginPx),
                                              base::rectOf(before.size()));
    EncodedPlanes out = before.picture(tile);
    if (rect.empty()) return out;
    const auto filled = stage::kept(before.store(), staged<EncodedPlanes>("line", fillBlock, before, rect)).value();
    image::copyShared(*filled, rect, out, tile);
    return out;
}

}  // namespace

const Bringer bringsLine = {
    .looksAt = [](const Stroke&, const base::Rect& target,
                  int) { return base::grown(target, lineBlockPx + lineMarginPx); },
    .over = lineOver,
};

}  // namespace dimhem::mask
