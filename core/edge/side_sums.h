// The colours of one side of an edge, over windows: their count, sums and sums of squares.
#pragma once

#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

struct SideSums {
    image::Plane<float> count, sum[3], square[3];
};

inline constexpr float fewestSamples = 4;  // to say anything of a side

// Of the pixels of `side` further than `beyond` from the edge, over (2 window + 1)^2 pixels. `distance` as of
// distanceToEdge. The squares are left out where they are not wanted.
SideSums sideSums(const Guide& guide, const Sides& sides, const image::Plane<float>& distance, Side side, float beyond,
                  int window, bool withSquares = true);

}  // namespace dimhem::edge
