// Moves the edge of a mask to the picture's edge, where that is not far off.
//
// The pixels within `bandPx` of the mask's edge are free, the others stay on their side. Each free pixel is likelier on
// the side whose colours, just beyond the band, are like its own (localized region statistics: Lankton and
// Tannenbaum, "Localizing Region-Based Active Contours", TIP 2008); the cut between the sides runs where neighbours
// differ (Boykov and Jolly, "Interactive Graph Cuts", ICCV 2001). Cited from memory, to be confirmed.
#pragma once

#include <cstdint>

#include "core/edge/guide.h"

namespace dimhem::edge {

enum class Side : std::uint8_t { outside, inside, unknown };
using Sides = image::Plane<Side>;

// Sides of a soft mask about one half; below 0 is unknown.
Sides sidesOf(const image::Plane<float>& mask);

// Unknown pixels stay so, and are no samples of any side. `noise` as of noiseOf.
void cutBand(const Guide& guide, double bandPx, double noise, Sides& sides);

// How far each pixel is from the nearest neighbour of the other side, in pixels, up to `limit`.
image::Plane<float> distanceToEdge(const Sides& sides, double limit);

// Unknown pixels take the side of what lies about them; all stay unknown where nothing is known.
void fillUnknown(Sides& sides);

// The matte of a cut: 1 inside, 0 outside, and at the edge as much as the colours there say. `softPx`: how wide the
// picture's own edge is, 0 for as sharp as it gets.
image::Plane<float> matteOf(const Guide& guide, const Sides& sides, double softPx);

}  // namespace dimhem::edge
