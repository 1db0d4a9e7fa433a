// The colour of a veil, and how dense it is beside what its mask says. P = (1 - w) J + w C, linear light.
//
//   density   fine detail shrinks with 1 - s w: s is taken such that the median of what a Gaussian of 2 pixels leaves
//   is
//             the same in ten bins of w as where there is no veil
//   found     over places of all densities J varies by itself, so P = X + w (C - X) about a mean X: C by least squares,
//             robust (iteratively reweighted, by 1 / (1 + (r / 2 median |r|)^2))
//   picked    what is seen at a place is not C: C = (P - (1 - w) J) / w with J the median of the nearest unveiled
//             surroundings
#pragma once

#include <optional>

#include "core/adjust/subject.h"
#include "core/base/rect.h"
#include "core/colour/types.h"

namespace dimhem::adjust {

struct FoundVeil {
    colour::LinearRgb colour;
    double density = 1;  // s, of 0.3 .. 1 of what the mask says
};

// Nothing where the mask covers too little, or is too even to tell.
std::optional<FoundVeil> foundVeil(const Subject& subject);

// By a place of the photo under the veil, whose mask counts `density` times. Nothing where it has no veil, or nothing
// without one is near.
std::optional<colour::LinearRgb> pickedVeil(const Subject& subject, base::Point place, double density);

}  // namespace dimhem::adjust
