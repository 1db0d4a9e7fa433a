// Haze: how much of the light of each place comes through it (the transmission t), and the colour of the light it adds
// (the air light A): P = t J + (1 - t) A in linear light.
//
//   bound  tb = greatest over the channels of (A - P) / (A - C0), held to 0.02 .. 1: nothing in the scene is darker
//   than
//          C0 = 0.04
//   x      = min(closing of tb over 15 x 15, 1.2 tb)
//   t      = x by the guided filter with the picture as its guide, then held to 0.98 tb .. min(1, 1.2 tb)
//
// Published: the bound and the closing, Meng, Wang, Duan, Xiang and Pan, "Efficient image dehazing with boundary
// constraint and contextual regularization", ICCV 2013, there with an upper bound as well; the air light, He, Sun and
// Tang, "Single image haze removal using dark channel prior", PAMI 2011. Both cited from memory. The cap of 1.2 is
// ours: it keeps near things from lending their clear air to the haze that is seen through their gaps.
//
// Sizes are meant for a picture of about 1500 pixels on its longer side.
#pragma once

#include "core/colour/types.h"
#include "core/edge/guided_filter.h"

namespace dimhem::edge {

inline constexpr int hazeSide = 1500;
inline constexpr double hazeBlack = 0.04, hazeCap = 1.2;

// The mean of the brighter half of the thousandth of places whose surroundings have no dark channel.
colour::LinearRgb airLight(const image::LinearPlanes& picture);

image::Plane<float> hazeBound(const image::LinearPlanes& picture, const colour::LinearRgb& air);

// The lines that give t from a place's own colour.
Lines transmissionLines(const image::LinearPlanes& picture, const colour::LinearRgb& air);
// How far around a place they look.
int transmissionReach();

// t of each place of the picture the lines are of.
image::Plane<float> transmission(const image::LinearPlanes& picture, const Lines& lines, const colour::LinearRgb& air);

// t of each place of a finer picture, of `rect` on a level so many before that of the lines; they must be of a whole
// photo, of two pixels a side or more, and go on beyond it.
image::Plane<float> transmissionOver(const image::LinearPlanes& finer, const Lines& lines, const colour::LinearRgb& air,
                                     const base::Rect& rect, int levelsBefore);

}  // namespace dimhem::edge
