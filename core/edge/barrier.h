// How high an edge one must cross to get somewhere.
#pragma once

#include <functional>

#include "core/edge/guide.h"

namespace dimhem::edge {

// For each pixel the least, over all ways from the sources, of the greatest step of colour on the way: the distance of
// two neighbours in OKLab, in steps of 1/1024 (a minimax path, as in the watershed: Dijkstra's algorithm with buckets).
// 1, more than any step there is, where there are no sources.
image::Plane<float> barrierFrom(const Guide& guide, const std::function<bool(int x, int y)>& isSource);

}  // namespace dimhem::edge
