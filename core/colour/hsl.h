// Hue, saturation and lightness of encoded colours (CSS Color Module Level 4, section 7).
#pragma once

#include "core/colour/types.h"

namespace dimhem::colour {

// In degrees 0..360; 0 for greys.
double hslHueDeg(const EncodedRgb& colour);

// Hue in degrees, any; the others 0..1.
EncodedRgb rgbFromHsl(double hueDeg, double saturation, double lightness);

}  // namespace dimhem::colour
