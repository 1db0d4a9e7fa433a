// The photo as edges are looked for in it (edge/guide.h), at any level.
//
// Masks hold to the photo as it was read, not to what earlier corrections make of it: an edge must not move because
// something before it was dialled.
#pragma once

#include "core/edge/guide.h"
#include "core/mask/context.h"

namespace dimhem::mask {

edge::Guide guideOver(const Area& area, const PhotoRead& photo);

// Noise smoothed away; put together from tiles that are kept.
edge::Guide smoothGuideOver(const Area& area, const PhotoRead& photo);

// The noise of the photo at a level (edge::noiseOf), measured at places all over it.
double noiseAt(int level, const PhotoRead& photo);

}  // namespace dimhem::mask
