// From a hard cut to a matte: at the edge as much as the colours there say.
#pragma once

#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

// 1 inside, 0 outside. Along a sharp edge of the picture the guided filter decides; along a soft one, such as out of
// focus, where each colour lies between those of the two sides beyond it. Which it is, is measured all along the edge.
// Unknown pixels count as outside.
image::Plane<float> matteOf(const Guide& guide, const Sides& sides);

}  // namespace dimhem::edge
