// Gaussian blur of one plane, separable, cut off at 3 sigma; beyond the plane its edge goes on.
//
// Plain loops in a fixed order of sums: the same pixels give the same bits wherever in a plane they lie.
#pragma once

#include "core/image/plane.h"

namespace dimhem::kernel {

// How far a blur of this sigma reaches, in pixels.
int gaussianReach(double sigma);

// In place. A sigma below 0.05 changes nothing.
void gaussianBlur(image::Plane<float>& plane, double sigma);

// Sigma of the Gaussian that takes a hard edge to one that goes from 90 % to 10 % over `distance`: the normal
// distribution has 10 % beyond 1.2815516 sigma.
inline constexpr double sigmaPerEdgeDistance = 1 / (2 * 1.2815515655446004);

}  // namespace dimhem::kernel
