// Pulls the edge of any mask to the picture's edge.
#pragma once

#include "core/edge/guide.h"

namespace dimhem::edge {

// The mask's 50 % line moves to the picture's edge within `bandPx` of it (band_cut.h, twice, the second time half as
// far) and is as soft there as the picture (matte.h); on both sides the mask keeps the values it had beyond the band.
image::Plane<float> snapped(const Guide& guide, const image::Plane<float>& mask, double bandPx, double noise);

// How far round a place it looks, in pixels.
int snapReach(double bandPx);

}  // namespace dimhem::edge
