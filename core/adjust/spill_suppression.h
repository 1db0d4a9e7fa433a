// Spill suppression: takes the light of a coloured screen, or the bounce of a lawn, off a subject.
//
// On encoded values held to 0..1, turned about the grey axis by the angle that takes the screen's hue to green (120
// degrees; a screen of pure red, green or blue only changes the channels' places). The screen's channel s may be at
// most
//   limit = mean + limit/100 (maximum - mean)    of the other two channels
// and its excess e = max(0, s - limit) is taken off by amount/100, times how far the pixel's tone takes part: with
// t = L*/100 the weights (1 - t)^2, 2 t (1 - t), t^2 of dark, middle and light tones (they sum to one). Where s does
// not stand above the limit nothing changes, bit for bit. The luminance Y lost by it is given back by "light back"/100,
// as grey, in linear light.
//
// Limiting one channel by the mean or the maximum of the others is common practice in compositing.
#pragma once

#include "core/adjust/adjustment.h"
#include "core/colour/types.h"

namespace dimhem::adjust {

extern const AdjustmentKind spillSuppression;

// The screen hue of a colour, degrees 0..360 about the grey axis; 0 for greys.
double screenHueOf(const colour::EncodedRgb& colour);

}  // namespace dimhem::adjust
