// CIE XYZ and CIE 1976 L*a*b* of sRGB colours.
//
// XYZ: the matrix of the primaries and white of IEC 61966-2-1 (D65), as exact fractions. L*a*b*: CIE 15:2004, with the
// exact breakpoints (24/116)^3 and 841/108, against the white of that matrix, so that sRGB white is exactly L* 100, a*
// 0, b* 0.
#pragma once

#include "core/colour/matrix3.h"
#include "core/colour/types.h"

namespace dimhem::colour {

// From the chromaticities of IEC 61966-2-1 (primaries, and a white of 0.3127, 0.3290), exactly; the fractions are those
// of CSS Color Module Level 4, "Sample code for color conversions".
inline constexpr Matrix3 xyzFromLinearMatrix = {{{506752.0 / 1228815, 87881.0 / 245763, 12673.0 / 70218},
                                                 {87098.0 / 409605, 175762.0 / 245763, 12673.0 / 175545},
                                                 {7918.0 / 409605, 87881.0 / 737289, 1001167.0 / 1053270}}};

Xyz xyzFromLinear(const LinearRgb& colour);
LinearRgb linearFromXyz(const Xyz& colour);

Lab labFromXyz(const Xyz& colour);
Xyz xyzFromLab(const Lab& colour);

// L* of a luminance relative to white, 0..1 and beyond.
double lightness(double luminance);

Lab labFromLinear(const LinearRgb& colour);
Lab labFromEncoded(const EncodedRgb& colour);

}  // namespace dimhem::colour
