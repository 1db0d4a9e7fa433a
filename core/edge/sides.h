// Which side of an edge each pixel is on.
#pragma once

#include <cstdint>

#include "core/image/plane.h"

namespace dimhem::edge {

enum class Side : std::uint8_t { outside, inside, unknown };
using Sides = image::Plane<Side>;

inline bool isWithin(base::Size size, int x, int y) {
    return x >= 0 && y >= 0 && x < size.width && y < size.height;
}

// Sides of a soft mask about one half; below 0 is unknown.
Sides sidesOf(const image::Plane<float>& mask);

// Unknown pixels take the side of what lies about them; all stay unknown where nothing is known.
void fillUnknown(Sides& sides);

// How far each pixel is from the nearest neighbour of the other side, in pixels, up to a little more than `limit`.
image::Plane<float> distanceToEdge(const Sides& sides, double limit);

}  // namespace dimhem::edge
