// Where a mask solved along its edge (edge/solved_matte.h) is to be believed rather than the mask itself, from the
// photo.
//
// A solution can leak: into texture that looks like the other side, into what it was told nothing of. So it is believed
// where its edge lies better along the photo's than the mask's does, and a soft passage only where the photo's colours
// go along with it.
#pragma once

#include "core/edge/guide.h"

namespace dimhem::check {

// All as large as the masks, 0..1.
struct SolvedBelief {
    image::Plane<float> differs;      // 1 where the solved mask differs from the mask near by
    image::Plane<float> overMask;     // how far to believe it where nothing else can tell
    image::Plane<float> overCut;      // and where a cut along the photo's edge can tell as well
    image::Plane<float> softPassage;  // how sure it is that the edge is out of focus there
};

SolvedBelief beliefIn(const edge::Guide& guide, const image::Plane<float>& mask, const image::Plane<float>& solved);

}  // namespace dimhem::check
