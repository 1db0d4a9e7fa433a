// Glow: soft light that the bright parts shed round them, as a mist or a soft lens gives it, added in linear light.
//
//   w(L*)  = t^2 (3 - 2 t),  t = (L* - from) / 25 held to 0..1: what counts as bright; L*: CIE 15:2004
//   light  = Gaussian of w P, sigma = radius / 2 in pixels of the photo
//   P     += amount x warm x light, by channel: warm = (1 + 0.35 q, 1, 1 - 0.35 q) over its luminance, q = warmth / 100
//
// So nothing gets darker, and what has nothing bright near it stays. The bright parts are judged on the level the blur
// is made on (level_gaussian.h): the means of its pixels, so that lights smaller than one count by their mean.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind glow;

}  // namespace dimhem::adjust
