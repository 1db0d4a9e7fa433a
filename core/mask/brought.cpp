#include "core/mask/brought.h"

#include <algorithm>

#include "core/mask/bringer.h"

namespace dimhem::mask {

bool bringsAnything(std::span<const StrokePtr> strokes) {
    return std::ranges::any_of(
        strokes, [](const StrokePtr& stroke) { return stroke->brush().brings.kind != BringKind::nothing; });
}

std::optional<stage::Step<image::RgbaPlanes>> bringing(std::span<const StrokePtr> strokes, const Area& area,
                                                       Context& context) {
    std::vector<BeforeStroke> near = BeforeStroke::allOf(strokes, area.level, context);
    std::erase_if(near, [&](const BeforeStroke& one) { return base::intersected(one.target(), area.rect).empty(); });
    if (near.empty()) return std::nullopt;
    return stage::step<image::RgbaPlanes>(
        "brought",
        [](image::RgbaPlanes& out, const std::vector<BeforeStroke>& near, const Area& area) {
            layBrought(near, area, out);
        },
        std::move(near), area);
}

std::optional<base::Point> foundOffset(std::span<const StrokePtr> strokes, Context& context) {
    const std::vector<BeforeStroke> all = BeforeStroke::allOf(strokes, 0, context);
    if (all.empty() || all.back().index() + 1 != strokes.size()) return std::nullopt;
    return offsetOf(all.back());
}

}  // namespace dimhem::mask
