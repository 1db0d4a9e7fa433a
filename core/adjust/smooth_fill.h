// Smooth fill: tone and colour carried into a hole from all round it, as a membrane (core/repair/membrane.h), in
// encoded values.
//
// The border is the picture beside the hole, or, so that its noise makes no streaks, the mean of what is known under a
// Gaussian of a given sigma.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind smoothFill;

}  // namespace dimhem::adjust
