// Planes fitted to what lies about each place: weighted least squares under a Gaussian, for several pictures that share
// their weights.
//
// A fit of first order instead of a mean (local regression: Cleveland, "Robust Locally Weighted Regression", 1979;
// cited from memory), so that a slope comes out as it is, also beside places that have no weight.
#pragma once

#include <span>
#include <vector>

#include "core/image/plane.h"

namespace dimhem::kernel {

struct PlaneFit {
    image::Plane<float> value;     // of the plane at the place itself
    image::Plane<float> variance;  // of the picture about the plane
};

// How far a fit looks, in pixels.
int planeFitReach(double sigma);

// `weights` 0..1; where they are 0 the values must be finite all the same. Of what lies by the reach inside. Where
// hardly anything about a place has weight, the variance is infinite. Values should not be much larger than 100 times
// the deviations that matter.
std::vector<PlaneFit> fittedPlanes(std::span<const image::Plane<float>> values, const image::Plane<float>& weights,
                                   double sigma);

}  // namespace dimhem::kernel
