// Sums over square windows, at a cost that does not depend on their size. What lies outside the plane counts as zero.
#pragma once

#include "core/image/plane.h"

namespace dimhem::kernel {

// The sum of the (2 radius + 1)^2 values about each place.
image::Plane<float> boxSum(const image::Plane<float>& values, int radius);

// The mean of those of them that lie within the plane.
image::Plane<float> boxMean(const image::Plane<float>& values, int radius);

}  // namespace dimhem::kernel
