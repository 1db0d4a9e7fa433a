// Where a mask's edge is finer than a contour can be: hair, leaves, grass, wires, passages out of focus.
//
// A narrow band about the edge is solved (solved_matte.h); where the solution runs against the mask at the band's rim
// the band grows, and is solved again. What is kept of it is where the solution has more contour than one plain edge,
// or a wide mixture: plain edges are left to the cut. It reaches part of a hull only: what lies far from the edge, with
// none of the other side near by, has to be painted over.
#pragma once

#include "core/image/plane.h"

namespace dimhem::edge {

// 1 where the mask is to be solved. `mask`: 0..1; `noise`: of the picture, encoded. To be called at a size where hair
// is a pixel or so.
image::Plane<std::uint8_t> foundBand(const image::LinearPlanes& picture, const image::Plane<float>& mask, double noise);

}  // namespace dimhem::edge
