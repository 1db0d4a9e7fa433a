// Spill suppression: takes the light of a green or blue screen, or the bounce of a lawn, off a subject.
//
// On encoded values held to 0..1. The screen's channel s may be at most
//   limit = mean + limit/100 (maximum - mean)    of the other two channels
// and its excess e = max(0, s - limit) is taken off by amount/100, times how far the pixel's tone takes part: with
// t = L*/100 the weights (1 - t)^2, 2 t (1 - t), t^2 of dark, middle and light tones (they sum to one). Where s does
// not stand above the limit nothing changes, bit for bit. The luminance Y lost by it is given back by "light back"/100,
// as grey, in linear light.
//
// Limiting one channel by the mean or the maximum of the others is common practice in compositing.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind spillSuppression;

}  // namespace dimhem::adjust
