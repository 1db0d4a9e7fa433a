// The colour of a veil, and how dense it is beside what its mask says. P = (1 - w) J + w C, linear light.
//
//   lines     in a window of one material P = J + slope w with slope = s C - s J: over windows of many tones that is a
//             line again, which tells s and C at once (robustly: iteratively reweighted, by 1 / (1 + (r / 2 median
//             |r|)^2)); it needs a veil that thins out within some hundred pixels
//   found     else, about where the veil thins out: P = X + s w (C - X) about a mean X, robustly; s such that with
//             s w C taken off fine detail (what a Gaussian of 2 pixels leaves, beside the light it lies in) has the
//             same median in ten bins of w as where there is no veil
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
