// Match to area: the colours of the masked area moved to those of a reference area of the same photo.
//
// In CIELAB (CIE 15, D65): each of L*, a*, b* is moved so that its mean and spread (standard deviation) become those of
// the reference (Reinhard, Ashikhmin, Gooch and Shirley, "Color Transfer between Images", IEEE CG&A 21, 2001, there in
// another opponent space):
//   v' = v + amount ((v - mean) spread_ref / spread + mean_ref - v)
// amount is "tone"/100 for L* and "colour"/100 for a* and b*. A spread grows or shrinks at most threefold, so that
// noise on a plain thing does not become texture. Means and spreads are measured when the area is marked and kept with
// the adjustment, so that it acts alike at any size and on other photos.
//
// Tables: "place" the marked rectangle of the photo (x0 y0 x1 y1, pixels), "own" and "reference" what was measured
// (mean L* a* b*, spread L* a* b*); no row: not marked yet, and nothing changes.
#pragma once

#include <optional>

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind matchArea;

// What is measured (matchArea.matching), in the settings.
enum class MatchTable { place, own, reference };
std::optional<ColourSpread> measuredIn(const Settings& settings, MatchTable which);  // own or reference

}  // namespace dimhem::adjust
