// Keeps an edge that was moved within reach of where it was.
#pragma once

#include "core/edge/sides.h"

namespace dimhem::edge {

// Pixels of `moved` farther than `mostPx` from the edge of `was` get the side they had. A piece of `was` that would
// keep less than half of itself, such as a small disc whose edge found no edge near, keeps all of it, and so does what
// lies about it. True where there was such a piece.
bool keepNear(const Sides& was, double mostPx, Sides& moved);

}  // namespace dimhem::edge
