// How much two corrections pull the same place in opposite directions.
//
// Each has an effect on a pixel: a difference in CIELAB, the picture after it less the picture before it. Where the two
// directions are more than a right angle apart, what each takes away from the other is the smaller one's part along the
// other's direction.
#pragma once

#include "core/colour/types.h"
#include "core/image/plane.h"

namespace dimhem::check {

struct Effect {
    image::Plane<float> l, a, b;
};

struct Opposition {
    double cancelledPct = 0;     // of the weaker of the two, where both act
    double cancelled = 0;        // in CIELAB units, mean over where they oppose each other
    double pixels = 0;           // of them
    image::Plane<float> amount;  // for each pixel
};

// What is weaker than `least` units counts as none.
Opposition opposition(const Effect& one, const Effect& other, double least = 0.3);

}  // namespace dimhem::check
