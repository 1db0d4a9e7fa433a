// Saturation: more or less colour at the same luminance.
//
// In linear light, with Y the luminance: v = Y + k (v - Y), so that Y stays what it was.
//   amount below 0   k = 1 + amount/100: at -100 only grey is left
//   amount above 0   k = 1 + amount/100 (1 - s), s = (max - min) / max of the encoded channels held to 0..1: what is
//                    saturated already gains less, so that many weak strokes build up without shouting
// With the guard on, an increase stops where a channel would leave 0..1; pixels that are outside already are left alone
// by an increase.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind saturation;

}  // namespace dimhem::adjust
