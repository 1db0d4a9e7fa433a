// Areas that reach beyond the photo: there the pixels of its edge go on.
#pragma once

#include <algorithm>

#include "core/image/tiles.h"
#include "core/mask/coverage.h"

namespace dimhem::render {

// The part of an area that lies on the photo; beside it, the nearest pixels of its edge.
inline mask::Area onPhoto(base::Size photo, const mask::Area& area) {
    const base::Size size = image::levelSize(photo, area.level);
    const int x0 = std::clamp(area.rect.x0, 0, size.width - 1), y0 = std::clamp(area.rect.y0, 0, size.height - 1);
    return {{x0, y0, std::clamp(area.rect.x1, x0 + 1, size.width), std::clamp(area.rect.y1, y0 + 1, size.height)},
            area.level};
}

// From the pixels on the photo to those of the whole area.
inline void extend(const image::Plane<float>& from, const mask::Area& inside, image::Plane<float>& to,
                   const mask::Area& area) {
    for (int y = area.rect.y0; y < area.rect.y1; ++y) {
        const float* row = from.row(std::clamp(y, inside.rect.y0, inside.rect.y1 - 1) - inside.rect.y0).data();
        float* out = to.row(y - area.rect.y0).data();
        for (int x = area.rect.x0; x < area.rect.x1; ++x)
            *out++ = row[std::clamp(x, inside.rect.x0, inside.rect.x1 - 1) - inside.rect.x0];
    }
}

inline void extend(const image::EncodedPlanes& from, const mask::Area& inside, image::EncodedPlanes& to,
                   const mask::Area& area) {
    extend(from.red, inside, to.red, area);
    extend(from.green, inside, to.green, area);
    extend(from.blue, inside, to.blue, area);
}

}  // namespace dimhem::render
