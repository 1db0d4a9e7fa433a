// Haze: the air between taken off, or added, by what each place's light has of it (core/edge/transmission.h).
//
// In linear light, of a place with transmission t under air light A:
//   D    = scale max(0, -log t - near)      the haze that counts: what a near mark has of it is none, a far mark says
//                                           how much there is at its place
//   D    at most m = -log(floor)            so that noise is not amplified without end; less and less of it from there
//                                           to m + 1, from where on all is haze, such as the sky, and nothing is done
//          by a distance: half of that, half the depth that is usual so far along it, at most what the place's
//          own colour allows
//   out  = A + (P - A) exp(amount D)        amount 1: all of it off; below 0 more of it is laid on
// t is worked out on the level whose longer side is at most 1500 pixels, of the picture as it arrives, and evaluated
// with each pixel's own colour.
//
// Tables: "colour" the air light, linear light in percent, found or picked; "near" and "far" marked places of the
// photo, pixels, far ones with the share of their light, in percent, that is haze; "distance" a way [x, y, x, y] from
// the nearest ground to the skyline; "depths" the median D in twelve parts of that way, never falling, less what it
// begins with; "measured" what follows from them.
#pragma once

#include <optional>

#include "core/adjust/adjustment.h"
#include "core/colour/types.h"

namespace dimhem::adjust {

extern const AdjustmentKind haze;

enum class HazeTable { colour, near, far, distance, depths, measured };

std::optional<colour::LinearRgb> airLightOf(const Settings& settings);
Settings withAirLight(Settings settings, const colour::LinearRgb& air);
// What follows from the marks is measured anew.
Settings withNearMark(Settings settings, double x, double y);
Settings withFarMark(Settings settings, double x, double y);
Settings withDistance(Settings settings, base::Point foot, base::Point skyline);
Settings withoutMarks(Settings settings);

// How much haze even the clearest twentieth of the photo is said to have, -log t; where it is much, the scene may have
// nothing dark, and a near mark is wanted.
std::optional<double> leastHaze(const Settings& settings);
inline constexpr double muchHaze = 0.25;

}  // namespace dimhem::adjust
