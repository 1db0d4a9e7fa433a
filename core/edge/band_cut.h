// Moves the edge of a mask to the picture's edge, where that is not far off.
//
// The pixels within `bandPx` of the mask's edge are free, the others stay on their side. Each free pixel is likelier on
// the side whose colours, just beyond the band, are like its own (localized region statistics: Lankton and
// Tannenbaum, "Localizing Region-Based Active Contours", TIP 2008); the cut between the sides runs where neighbours
// differ (Boykov and Jolly, "Interactive Graph Cuts", ICCV 2001). Cited from memory.
#pragma once

#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

// Unknown pixels stay so, and are no samples of any side. `noise` as of noiseOf. `evidence`: what else is known of each
// pixel, as a log likelihood ratio of inside to outside, or null.
void cutBand(const Guide& guide, double bandPx, double noise, Sides& sides,
             const image::Plane<float>* evidence = nullptr);

}  // namespace dimhem::edge
