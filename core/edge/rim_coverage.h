// How much of each pixel along a sharp edge the inside covers, told by its colour.
//
// A pixel the edge passes through shows P = a F + (1 - a) B in linear light, F and B being what either side is near by,
// just beyond the edge's own blur: a is where P lies between them. That is worth as much as the two sides differ by
// more than each varies in itself.
#pragma once

#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

inline constexpr float rimPx = 2.5f;  // from the cut: pixels farther off are not looked at

struct RimCoverage {
    image::Plane<float> covered;  // a, 0..1
    image::Plane<float> trust;    // 0..1; 0 farther off than rimPx
};

// `distance` as of distanceToEdge.
RimCoverage rimCoverage(const Guide& guide, const Sides& sides, const image::Plane<float>& distance);

}  // namespace dimhem::edge
