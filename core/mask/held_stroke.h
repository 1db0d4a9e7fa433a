// What a stroke that holds edges keeps to: how much each pixel belongs to the thing under its centres (edge/hold.h).
//
// Worked out on the level where the brush is at most 80 pixels in radius, dab after dab in the order they were painted,
// so that a stroke means the same whenever and wherever it is computed. While it is being painted it is shown as found
// there; once the pen is lifted its edge is cut anew at every level (mask/across_levels.h), together with that of the
// strokes before it that hold to the same: a thing painted in a hundred strokes takes the time of its area, and its
// edge does not depend on which of them passed it.
#pragma once

#include <functional>
#include <span>

#include "core/mask/context.h"
#include "core/mask/stroke.h"

namespace dimhem::mask {

// Whether a finished stroke goes on with what the one before it held to: both mean the same thing, and what either of
// them found of it holds for both.
bool holdTogether(const Stroke& before, const Stroke& next);

// What finished strokes that hold together belong to, over an area: 0..1 in 16 bits. Its edge is cut once for all of
// them.
Staged<Coverage> heldBy(std::span<const StrokePtr> run, const Area& area, const PhotoRead& photo);

// The same of the first `dabs` of a stroke that is being painted.
Staged<Coverage> heldSoFar(const Stroke& stroke, std::size_t dabs, const Area& area, const PhotoRead& photo);

// How many dabs must be known for either over the rectangle of the photo; 0: none comes near it.
std::size_t dabsThatHold(const Stroke& stroke, const base::Rect& photoRect);

// Works out in advance, piece by piece while `goesOn()`, what dabs of that size about a place of the photo look at, so
// that the first of them need not wait.
void prepareToHold(base::Point place, double sizePx, const std::function<bool()>& goesOn, const PhotoRead& photo);

// The colour the brush would hold to at a place.
std::array<float, 3> holdColourAt(base::Point place, double sizePx, const PhotoRead& photo);

}  // namespace dimhem::mask
