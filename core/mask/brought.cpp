#include "core/mask/brought.h"

#include <algorithm>

#include "core/mask/bringer.h"

namespace dimhem::mask {

bool bringsAnything(std::span<const StrokePtr> strokes) {
    return std::ranges::any_of(
        strokes, [](const StrokePtr& stroke) { return stroke->brush().brings.kind != BringKind::nothing; });
}

Staged<image::RgbaPlanes> withBrought(Staged<image::RgbaPlanes> below, std::span<const StrokePtr> strokes,
                                      const Area& area, Context& context) {
    std::vector<BeforeStroke> near = BeforeStroke::allOf(strokes, area.level, context);
    std::erase_if(near, [&](const BeforeStroke& one) { return base::intersected(one.target(), area.rect).empty(); });
    return staged<image::RgbaPlanes>(
        "with brought",
        [](const image::RgbaPlanes& below, const std::vector<BeforeStroke>& near, const Area& area) {
            image::RgbaPlanes out(area.rect.size());
            out.alpha = image::copied(below.alpha);
            image::copyShared(below.colours, area.rect, out.colours, area.rect);
            layBrought(near, area, out);
            return out;
        },
        std::move(below), std::move(near), area);
}

std::optional<base::Point> foundOffset(std::span<const StrokePtr> strokes, Context& context) {
    const std::vector<BeforeStroke> all = BeforeStroke::allOf(strokes, 0, context);
    if (all.empty() || all.back().index() + 1 != strokes.size()) return std::nullopt;
    return offsetOf(all.back());
}

}  // namespace dimhem::mask
