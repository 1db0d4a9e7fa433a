// Signed distance to the contour of a soft mask at one half, and where the nearest place of the contour lies.
//
// Exact Euclidean distance between pixel centres by two passes (Felzenszwalb and Huttenlocher, "Distance Transforms of
// Sampled Functions", 2012), then moved to the contour itself, which runs half a pixel from the centres beside it.
#pragma once

#include "core/image/plane.h"

namespace dimhem::kernel {

struct DistanceField {
    image::Plane<float> distance;            // pixels; below 0 inside (values above one half), above 0 outside
    image::Plane<float> towardsX, towardsY;  // unit vector outward, across the nearest contour
    bool hasContour = false;                 // false: all inside or all outside; the rest is then not filled in
};

DistanceField signedDistance(const image::Plane<float>& mask);

}  // namespace dimhem::kernel
