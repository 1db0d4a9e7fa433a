// Noise: what was measured of it taken out, in luminance and colour apart, fine and coarse.
//
// In encoded values, in the planes of noise_level.h (Y, U, V). Each plane P of each level l loses its noise by the
// sliding DCT (kernel/sliding_dct.h), by the noise measured on that very level; then levels are put together, so that a
// level takes out only what the next coarser one does not see:
//   d    = shrink(P_l) - P_l                          what is taken out on level l; up, down: bilinear, means of 2 x 2
//   R_l  = d - up(down(d)) + up(R_(l+1))              the change on level l
// on levels 0 to 3 for Y, 0 to 4 for U and V; a view begins at its own level and shows what an export scaled down does.
// luminance acts on Y; colour on what levels 0 and 1 take out of U and V, blotches on the coarser ones. Each is a part
// of what was measured: half puts half of what was taken out back. detail puts back what level 0 took out of Y.
//
// Table "measured": a row for each level, plane (0 Y, 1 U, 2 V) and band of fineness: sigma in levels of 255 by 16
// tones. No row for a plane: it stays as it is.
#pragma once

#include "core/adjust/adjustment.h"
#include "core/adjust/noise_level.h"

namespace dimhem::adjust {

extern const AdjustmentKind noise;

inline constexpr int noiseLevels = 5;

// Of one level; the finest first. A plane none of whose blocks were looked at goes by the level before.
using NoiseByLevel = std::vector<NoiseLevel>;
Settings withNoise(Settings settings, const NoiseByLevel& levels);

// The sigma that was measured, in levels of 255, of a plane and band on a level, by tone; empty: nothing was.
enum class NoisePlane { y, u, v };
std::vector<double> measuredNoise(const Settings& settings, int level, NoisePlane plane, std::size_t band = 1);

// The same of the part of the photo that the subject's mask covers, of all of it where that is too little to measure.
NoiseByLevel noiseOf(const Subject& subject);

}  // namespace dimhem::adjust
