// The base of a picture: what is left where all that is smaller than a radius is evened out, except edges.
//
// In encoded values, each channel by the guided filter (edge/guided_filter.h; He, Sun and Tang, 2013, equations 5 and
// 6) with the luma of BT.709 as the guide: base = slope luma + offset. What varies by much less than `flat` (a
// difference of values) is evened out; what varies by much more is an edge.
#pragma once

#include <span>

#include "core/image/plane.h"

namespace dimhem::adjust {

// Slope and offset of red, then of green, then of blue.
inline constexpr std::size_t basePlanes = 6;

// Of a picture that is larger than the planes by twice the radius on every side.
void makeBase(const image::EncodedPlanes& around, int radius, double flat, std::span<image::Plane<float>> planes);

}  // namespace dimhem::adjust
