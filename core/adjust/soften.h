// Softens: a Gaussian blur in linear light.
//
//   sigma = radius / 2, in pixels of the photo; each pixel goes `amount` of the way to the mean round it
//
// The blur: level_gaussian.h.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind soften;

}  // namespace dimhem::adjust
