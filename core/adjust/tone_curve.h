// Tone curve: the tone scale bent by hand through points.
//
// Five curves, each through 2 to 16 points of (tone in, tone out), both 0..100 % of the encoded scale, joined as in
// monotone_spline.h. They act in this order:
//   luminance   on the luminance Y through the sRGB curve (IEC 61966-2-1); the linear channels are scaled by the same
//               factor, so that the chromaticity stays; below Y = 0.02 more and more added as grey
//   channels    on each encoded channel alike: a steeper curve makes colours denser
//   red, green, blue   on one encoded channel: a cast that depends on the tone
#pragma once

#include "core/adjust/adjustment.h"
#include "core/adjust/monotone_spline.h"

namespace dimhem::adjust {

extern const AdjustmentKind toneCurve;

// One of its curves, from the rows of its table; on 0..1.
MonotoneSpline splineOf(const Table& points);

}  // namespace dimhem::adjust
