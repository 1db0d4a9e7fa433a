// Detail: softer and sharper, each by itself and in this order:
//
//   soften            towards the base of its radius (edge_softening.h)
//   split             tone and texture apart, at a size: texture softened, tone kept; tone softened, texture kept
//   local contrast    half of the amount with the radius `scale`, half with a quarter of it (local_contrast.h)
//   sharpen           with a threshold in times the noise that was measured, and halos held (sharpening.h)
//
// Table "measured": the sigma of the photo's noise in luminance, in levels of 255.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind detail;

}  // namespace dimhem::adjust
