// Colour balance: dark, middle and light tones each moved along cyan-red, magenta-green and yellow-blue.
//
// On encoded values. With t = L*/100 (CIE 15) of the pixel, held to 0..1, the three weights are those of Bernstein,
// which are smooth and sum to one:
//   shadows (1 - t)^2    midtones 2 t (1 - t)    highlights t^2
// A channel gains 0.2 x the weighed sum of its three values / 100; red, green and blue stand for the right ends of the
// three axes. With "hold light" the outcome is brought to the Y it had (pixel-inl.h, BringToLuminance), and the
// shadows' weight is multiplied by t^2 / (t^2 + 0.01): black has no room for colour. The scale of 0.2 is our own.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind colourBalance;

}  // namespace dimhem::adjust
