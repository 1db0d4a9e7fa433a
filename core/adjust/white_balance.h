// White balance: takes a cast of the light away, or gives one.
//
//   temperature  the colour temperature, in kelvin, that the light is said to have had; higher warms the picture
//   tint         the light's distance from the daylight locus, 1 = 0.0005 Duv towards green; higher turns the picture
//                towards magenta
// Works in linear light: the white of the setting is adapted to the white of (6500 K, 0) with the Bradford matrix
// (colour/white_point.h). Neutral at 6500 K and 0. Luminance of the adapted white is kept.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind whiteBalance;

}  // namespace dimhem::adjust
