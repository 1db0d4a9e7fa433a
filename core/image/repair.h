// Samples put right after they were read: alpha that multiplies its colours, numbers that are none.
#pragma once

#include "core/image/photo.h"

namespace dimhem::image {

// Colours that are stored multiplied by their alpha, divided by it. Where alpha is 0 the colours stay as they are.
// Whole numbers are rounded and end at their type's largest.
void divideByAlpha(Samples& samples);

// Of float samples: +infinity becomes the largest half-precision number, 65504; -infinity and NaN become 0.
void makeFinite(Samples& samples);

}  // namespace dimhem::image
