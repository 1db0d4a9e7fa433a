// From a hard cut to a matte: at the edge as much as the colours there say.
#pragma once

#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

struct FoundMatte {
    image::Plane<float> coverage;  // 1 inside, 0 outside
    image::Plane<float> told;      // 0..1: how surely colours told it (rim_coverage.h)
};

// Along a sharp edge of the picture the colours beside it decide (rim_coverage.h) and, where they do not tell, the
// guided filter; along a soft one, such as out of focus, where each colour lies between those of the two sides beyond
// it. Which it is, is measured all along the edge. Unknown pixels count as outside.
FoundMatte matteOf(const Guide& guide, const Sides& sides);

}  // namespace dimhem::edge
