// Grain: laid over a correction, so that what was smoothed, filled or painted looks like what is beside it.
//
// In encoded values, in the planes of noise_level.h: to Y the noise n1, to U and V n2 and n3 times the colour share.
// n is white noise that goes by the place alone (kernel/grain_rows.h) under a Gaussian of the size, times the sigma of
// the pixel's tone. On a coarser level its sigma is that of the mean over the pixels under one: the same at every zoom
// in the mean.
//
// Table "measured": one row, the size in pixels, the share of colour, sigma in levels of 255 by 16 tones
// (grain_level.h).
#pragma once

#include <optional>

#include "core/adjust/adjustment.h"
#include "core/adjust/grain_level.h"

namespace dimhem::adjust {

extern const AdjustmentKind grain;

// What was measured; none yet, or nothing: none.
std::optional<GrainLevel> measuredGrain(const Settings& settings);
Settings withGrain(Settings settings, const GrainLevel& level);

// The deviation of the mean over squares of so many pixels of grain of unit variance.
double deviationOfMean(double sizePx, int side);

}  // namespace dimhem::adjust
