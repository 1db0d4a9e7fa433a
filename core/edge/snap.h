// Pulls the edge of any mask to the picture's edge.
#pragma once

#include "core/edge/guide.h"

namespace dimhem::edge {

// The mask's 50 % line moves to the picture's edge within `bandPx` of it (band_cut.h, twice, the second time half as
// far), though no farther than `mostPx` (keep_near.h), and is as soft there as the picture (matte.h); on both sides the
// mask keeps the values it had beyond the band. A piece that would lose most of itself stays as it is.
image::Plane<float> snapped(const Guide& guide, const image::Plane<float>& mask, double bandPx, double noise,
                            double mostPx = 1e9);

// How far round a place it looks, in pixels.
int snapReach(double bandPx);

}  // namespace dimhem::edge
