// White balance: takes a cast of the light away, or gives one.
//
//   temperature  the colour temperature, in kelvin, that the light is said to have had; higher warms the picture
//   tint         the light's distance from the daylight locus, 1 = 0.0005 Duv towards green; higher turns the picture
//                towards magenta
// Works in linear light: the white of the setting is adapted to the white of (6500 K, 0) with the Bradford matrix
// (colour/white_point.h). Neutral at 6500 K and 0. Luminance of the adapted white is kept.
#pragma once

#include "core/adjust/adjustment.h"
#include "core/colour/types.h"

namespace dimhem::adjust {

extern const AdjustmentKind whiteBalance;

// The values (temperature, tint) that turn the given colour neutral: red = green = blue, but for `leave` (0..1) of its
// distance from the grey of its luminance. Clamped to the ranges of the parameters; a colour without light gives the
// neutral values.
std::vector<double> whiteBalanceFor(const colour::LinearRgb& shouldBeNeutral, double leave = 0);

}  // namespace dimhem::adjust
