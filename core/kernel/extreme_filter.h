// The least and the greatest value of square windows, cut at the borders of the plane.
#pragma once

#include "core/image/plane.h"

namespace dimhem::kernel {

// Over (2 radius + 1)^2 values about each place.
image::Plane<float> leastAround(const image::Plane<float>& values, int radius);
image::Plane<float> greatestAround(const image::Plane<float>& values, int radius);

}  // namespace dimhem::kernel
