// Softens: a Gaussian blur in linear light.
//
//   sigma = radius / 2, in pixels of the photo; each pixel goes `amount` of the way to the mean round it
//
// A blur whose sigma is more than 8 pixels is made on the level where it is 4 to 8, and read between its pixels: what
// it leaves of the picture has nothing finer. The pixels of a level are means already, of squares of 2^level; their
// variance, 1/12 of the square of that, is taken off.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind soften;

}  // namespace dimhem::adjust
