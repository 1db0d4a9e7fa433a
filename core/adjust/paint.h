// Paint: lays down what the strokes of the mask's brush bring: colours picked from the photo, or other places of it
// (core/mask/brings.h), in encoded values.
//
// Of the colour C that was painted over the picture P: by `keep light` k, in linear light, C becomes C (Y_P / Y_C)^k
// with Y the luminance (IEC 61966-2-1), so that at 100 % it is as light as what is there; by `keep texture`, P less its
// mean under a Gaussian of sigma `texture size` is added. Where nothing was painted the picture stays.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind paint;

}  // namespace dimhem::adjust
