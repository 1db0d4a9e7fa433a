// What a stroke that holds edges keeps to: how much each pixel belongs to the thing under its centres (edge/hold.h).
//
// Worked out on the level where the brush is at most 80 pixels in radius, dab after dab in the order they were painted,
// so that a stroke means the same whenever and wherever it is computed. While it is being painted it is shown as found
// there; once the pen is lifted its edge is cut anew at every level (mask/across_levels.h).
#pragma once

#include <functional>

#include "core/mask/context.h"
#include "core/mask/stroke.h"

namespace dimhem::mask {

// Of the first `dabs` of a stroke that holds, over an area: 0..1 in 16 bits.
CoveragePtr heldBy(const Stroke& stroke, std::size_t dabs, const Area& area, Context& context);

// How many dabs must be known for heldBy over the rectangle of the photo; 0: none comes near it.
std::size_t dabsThatHold(const Stroke& stroke, const base::Rect& photoRect);

// Works out in advance, piece by piece while `goesOn()`, what dabs of that size about a place of the photo look at, so
// that the first of them need not wait.
void prepareToHold(base::Point place, double sizePx, const std::function<bool()>& goesOn, Context& context);

// The colour the brush would hold to at a place.
std::array<float, 3> holdColourAt(base::Point place, double sizePx, Context& context);

}  // namespace dimhem::mask
