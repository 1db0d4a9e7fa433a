// The sRGB transfer curve (IEC 61966-2-1), in double precision; the reference for the fast rows in kernel/.
//
//   encoded = 12.92 v                      for v <= 0.0031308
//           = 1.055 v^(1/2.4) - 0.055      above, also beyond 1
//   Negative values: -curve(-v) (scRGB, IEC 61966-2-2, takes the same odd symmetry).
#pragma once

#include "core/colour/types.h"

namespace dimhem::colour {

double encodedFromLinear(double linear);
double linearFromEncoded(double encoded);

EncodedRgb encodedFromLinear(const LinearRgb& colour);
LinearRgb linearFromEncoded(const EncodedRgb& colour);

// Luminance Y of linear light: the middle row of the matrix in lab.cpp, about 0.2126, 0.7152, 0.0722.
inline constexpr double lumaR = 87098.0 / 409605, lumaG = 175762.0 / 245763, lumaB = 12673.0 / 175545;
double luminance(const LinearRgb& colour);

}  // namespace dimhem::colour
