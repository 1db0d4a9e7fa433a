// Left and right, above and below are alike to what looks for edges: a mirrored scene must come to the mirrored
// outcome.
#pragma once

#include "core/edge/guide.h"
#include "core/image/plane.h"

namespace dimhem::tests {

enum class Mirror { across, upsideDown };

template <class T>
image::Plane<T> mirrored(const image::Plane<T>& plane, Mirror mirror) {
    const base::Size size = plane.size();
    image::Plane<T> out(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const int fromX = mirror == Mirror::across ? size.width - 1 - x : x,
                      fromY = mirror == Mirror::across ? y : size.height - 1 - y;
            out.row(y)[static_cast<std::size_t>(x)] = plane.row(fromY)[static_cast<std::size_t>(fromX)];
        }
    }
    return out;
}

inline edge::Guide mirrored(const edge::Guide& guide, Mirror mirror) {
    return {mirrored(guide.l, mirror), mirrored(guide.a, mirror), mirrored(guide.b, mirror)};
}

}  // namespace dimhem::tests
