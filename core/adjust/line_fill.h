// Line fill: what meets a hole is carried on into it along lines, marked or found (core/repair/carried.h), in encoded
// values: for folds, scratches and wires across things with edges of their own.
//
// Table "directions": marked lines [x0, y0, x1, y1], pixels of the photo; none: they are found.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind lineFill;

Settings withDirection(Settings settings, base::Point from, base::Point to);
Settings withoutDirections(Settings settings);

}  // namespace dimhem::adjust
