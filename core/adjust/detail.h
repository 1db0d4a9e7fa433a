// Detail: local contrast, stronger or weaker about edges that stay as they are.
//
// On L = L* / 100 (CIE 15:2004). A base is taken off by the guided filter with L as its own guide
// (edge/guided_filter.h), eps = 0.003, so that steps of 0.055 and more stay in the base: L' = L + amount / 2 (L -
// base), first with the radius `scale`, then with a quarter of it. Red, green and blue are scaled alike in linear
// light, by Y' / Y, 1/4 to 4 times. Amount -100 leaves the bases alone.
//
// The lines of the filter are worked out on the level where the radius is at most 16 pixels, and read with each pixel's
// own L (He and Sun, "Fast Guided Filter", 2015).
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind detail;

}  // namespace dimhem::adjust
