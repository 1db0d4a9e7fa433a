#include <cmath>
#include <numbers>

#include "core/mask/bringer.h"

namespace dimhem::mask {

namespace {

// Where clone takes from for a place of the photo.
base::Point clonedFrom(const Stroke& stroke, base::Point place) {
    const Brings& brings = stroke.brush().brings;
    const base::Point first = stroke.points()[0].at, way = place - first;
    if (brings.turnDeg == 0 && brings.scalePct == 100) return place + *brings.offset;
    constexpr double degree = std::numbers::pi / 180;
    const double cos = std::cos(brings.turnDeg * degree), sin = std::sin(brings.turnDeg * degree);
    const double scale = 100 / brings.scalePct;
    return first + *brings.offset + base::Point{cos * way.x + sin * way.y, cos * way.y - sin * way.x} * scale;
}

base::Rect clonedFrom(const Stroke& stroke, const base::Rect& rect) {
    base::Rect out;
    for (const base::Point corner : {base::Point{double(rect.x0), double(rect.y0)},
                                     {double(rect.x1), double(rect.y0)},
                                     {double(rect.x0), double(rect.y1)},
                                     {double(rect.x1), double(rect.y1)}}) {
        out = base::united(out, base::grown(moved({0, 0, 0, 0}, clonedFrom(stroke, corner)), 1));
    }
    return out;
}

}  // namespace

const Bringer bringsClone = {
    .looksAt =
        [](const Stroke& stroke, const base::Rect&, int level) {
            return base::grown(image::levelRect(clonedFrom(stroke, stroke.bounds()), level), readBetweenPx);
        },
    .over =
        [](const BeforeStroke& before, const base::Rect& tile) {
            return before.taken(tile, [&](base::Point place) { return clonedFrom(*before.stroke(), place); });
        },
};

}  // namespace dimhem::mask
