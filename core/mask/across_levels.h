// A matte found on one level of the photo, carried to the others.
//
// Towards finer levels its edge is cut anew on each, within a few pixels of where the coarser one has it (banded cuts:
// Lombaert et al., "A Multilevel Banded Graph Cuts Method", ICCV 2005); towards coarser ones it is averaged. Work is
// done in blocks of fixed places, so that the outcome does not depend on what area is asked for. Cited from memory.
#pragma once

#include <functional>

#include "core/mask/context.h"

namespace dimhem::mask {

struct Found {
    int level = 0;           // that it was found on
    double firstBandPx = 8;  // how far off its edge may be on its own level, in pixels there; 0: it is exact
    // Its values over a rectangle of that level, 0..1, below 0 where nothing is known.
    std::function<Staged<image::Plane<float>>(const base::Rect&)> over;
};

using FoundPtr = std::shared_ptr<const Found>;

Staged<Coverage> acrossLevels(FoundPtr found, const Area& area, const PhotoRead& photo);

}  // namespace dimhem::mask
