// Areas that reach beyond the photo, and what stands there.
#pragma once

#include <algorithm>
#include <limits>

#include "core/adjust/adjustment.h"
#include "core/image/tiles.h"
#include "core/mask/beyond_photo.h"

namespace dimhem::render {

using adjust::Beyond;
using mask::onPhoto;

// The place in [first, last) that stands for one that may lie beside it.
inline int standIn(int at, int first, int last, Beyond beyond) {
    if (beyond != Beyond::mirrored) return std::clamp(at, first, last - 1);
    const int length = last - first, twice = 2 * length;
    const int folded = ((at - first) % twice + twice) % twice;
    return first + (folded < length ? folded : twice - 1 - folded);
}

// From the pixels on the photo to those of the whole area.
inline void extend(const image::Plane<float>& from, const mask::Area& inside, image::Plane<float>& to,
                   const mask::Area& area, Beyond beyond = Beyond::edgeGoesOn) {
    const base::Rect &own = inside.rect, both = base::intersected(inside.rect, area.rect);
    constexpr float nothing = std::numeric_limits<float>::quiet_NaN();
    for (int y = area.rect.y0; y < area.rect.y1; ++y) {
        if (beyond == Beyond::nothing && (y < own.y0 || y >= own.y1)) {
            std::ranges::fill(to.row(y - area.rect.y0), nothing);
            continue;
        }
        const float* row = from.row(standIn(y, own.y0, own.y1, beyond) - own.y0).data();
        float* out = to.row(y - area.rect.y0).data();
        const auto fill = [&](int first, int last) {
            if (beyond == Beyond::nothing) {
                std::fill(out + (first - area.rect.x0), out + (last - area.rect.x0), nothing);
                return;
            }
            for (int x = first; x < last; ++x) out[x - area.rect.x0] = row[standIn(x, own.x0, own.x1, beyond) - own.x0];
        };
        if (both.x0 >= both.x1) {
            fill(area.rect.x0, area.rect.x1);
            continue;
        }
        fill(area.rect.x0, both.x0);
        std::copy_n(row + (both.x0 - own.x0), both.width(), out + (both.x0 - area.rect.x0));
        fill(both.x1, area.rect.x1);
    }
}

inline void extend(const image::EncodedPlanes& from, const mask::Area& inside, image::EncodedPlanes& to,
                   const mask::Area& area, Beyond beyond = Beyond::edgeGoesOn) {
    extend(from.red, inside, to.red, area, beyond);
    extend(from.green, inside, to.green, area, beyond);
    extend(from.blue, inside, to.blue, area, beyond);
}

}  // namespace dimhem::render
