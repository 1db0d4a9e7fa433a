// Takes off, or adds, light that lies over the photo: of a leak, a reflection, a fade, a haze of even depth.
//
// In linear light the photo is P = (1 - w) J + w C: C the colour of the veil, w its density, J what lies below. So
//
//   J = (P - w C) / (1 - w),  w = density x amount, at most 0.97
//
// and, below 0, P = (1 - w) J + w C with w = -density x amount. The density is the correction's coverage times its
// strength: the mask is the veil. Where it is dense noise is amplified by 1 / (1 - w). C and the density can be found
// (veil_colour.h).
#pragma once

#include "core/adjust/adjustment.h"
#include "core/colour/types.h"

namespace dimhem::adjust {

extern const AdjustmentKind veil;

colour::LinearRgb veilColourOf(const Settings& settings);
Settings withVeilColour(Settings settings, const colour::LinearRgb& colour);

// How many times as strong noise becomes under a coverage, 0..1.
double noiseGainOf(const Settings& settings, double coverage);

}  // namespace dimhem::adjust
