// Tint: one colour laid over, such as warm light from the side.
//
// On encoded values: v = v + strength/100 (c - v). The colour c is given as CSS Color Module Level 4 HSL (hue in
// degrees, saturation and lightness in percent). With the correction's blend mode it acts as light (screen, soft
// light), as a filter (multiply) or as colour alone (colour).
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind tint;

}  // namespace dimhem::adjust
