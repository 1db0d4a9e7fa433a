// Light: exposure, black and white point, midtone, shadow lift, contrast, highlight hold.
//
// Steps, in this order:
//   1 exposure        linear light times 2^EV
//   2 black, white    v = (v - black) / (white - black), encoded; white stays at least 1 % above black
//   3 midtone         v += m x (1 - x), x = v clamped to 0..1; m = 0.9 midtone: black and white stay
//   4 shadow lift     v += a x (1 - x)^3; a = 2.5 lift, or 0.9 lift where it is negative
//   5 contrast        v += c x (1 - x) (2 x - 1): an S about the encoded value 0.5, slope there 1 + c/2
//   6 highlight hold  v > 0.5 moves by h towards 0.5 + 0.5 (1 - exp(-(v - 0.5) / 0.5)): rolls off instead of clipping
// Steps 2..6 together are the tone t(v), rising everywhere; outside 0..1 steps 3 to 5 go on with the slope they have
// at the end.
//
//   t 1 |            ,--'      lift: the low part bulges up
//       |        ,-'           contrast: the middle steepens
//       |    ,-'               hold: the top bends over
//     0 '--'------------ 1  v (encoded)
//
// Without "hold colour" t is applied to each channel, so that contrast makes colours denser and lifting thins them.
// With it, t is applied to the luminance Y (through the sRGB curve) and all three linear channels are scaled by the
// same factor, so that the chromaticity stays what it was; the less so the
// further Y lies below 0.02, where the change is added as grey instead (pixel-inl.h, ScaleOrAdd).
//
// The curves of steps 3..6 are our own; sRGB and Y: IEC 61966-2-1.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind light;

}  // namespace dimhem::adjust
