// Areas that reach beyond the photo: what lies on it is worked out, and the nearest pixel of its edge stands for the
// rest.
#pragma once

#include <algorithm>

#include "core/mask/coverage.h"

namespace dimhem::mask {

using image::onPhoto;

// From the values on the photo to those of the whole area.
inline image::Plane<float> extended(const image::Plane<float>& from, const base::Rect& inside, const base::Rect& area) {
    return image::planeOf(area.size(), [&](int x, int y) {
        return from.row(
            std::clamp(area.y0 + y, inside.y0, inside.y1 - 1) -
            inside.y0)[static_cast<std::size_t>(std::clamp(area.x0 + x, inside.x0, inside.x1 - 1) - inside.x0)];
    });
}

}  // namespace dimhem::mask
