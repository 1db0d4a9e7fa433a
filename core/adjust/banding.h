// Banding: the steps of a smooth place that had too few values, filled in.
//
// In encoded values. The step q of each channel, and the grain on it, are measured once (banding_step.h). On levels 1
// to 4 planes are fitted to what lies about each place (kernel/plane_fit.h, sigma 3 pixels of the level), on places
// without an edge. From fine to coarse the wider fit is taken while what lies about its plane is no more than rounding
// to q leaves, variance q^2 / 12, and the grain:
//   T_l  = v_l + ok_(l+1) (T_(l+1) - v_l)          v_l: the fit; ok: 1 to 1.2 times that variance, 0 from 1.6 on
//   out  = P + amount w clamp(T - m, -0.55 q, 0.55 q)
//   m    = P + keep (mean of what is like P - P)   so that grain and texture finer than a step stay
//   w    = ok_1, where values keep to the steps, where there is no edge
// What lies more than half a step from T is not the rounding's work and is held; where values do not keep to the steps
// nothing happens. Photos that no steps were found in come through untouched.
//
// Where it acts, 8-bit exports and the view are dithered (AdjustmentKind::needsDither).
//
// Table "measured": by channel (0 red, 1 green, 2 blue) the step, where its rungs lie, and the grain, in levels of 255.
#pragma once

#include "core/adjust/adjustment.h"
#include "core/adjust/banding_step.h"

namespace dimhem::adjust {

extern const AdjustmentKind banding;

// What was measured; nothing was found, or nothing measured yet: no steps.
BandingSteps measuredSteps(const Settings& settings);

}  // namespace dimhem::adjust
