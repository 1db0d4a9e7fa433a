// A thing told from what is about it, from a few drags over it.
//
// Found in two ways, and the better one taken. By colour: what is like the drags is inside, what is unlike them along
// the picture's border outside. By edges: a random walk from the drags and from the border (random_walk.h), whose
// contour is then made better by colours near it (local_evidence.h). The first one fills things of many colours; the
// second does not run off into what merely has the thing's colour. Better is what has fewer gaps in the edges that it
// lies along; of nearly equal ones the larger. Both end in a cut (colour_cut.h).
#pragma once

#include <vector>

#include "core/edge/colour_cut.h"
#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

struct RegionSettings {
    double bias = 0;     // added to the log likelihood of inside; more never leaves out what less took in
    double noise = 0;    // of the guide before it was denoised
    bool apart = false;  // also what does not hang together with a drag, where its colours are surely the thing's
};

// Where the ways of finding it differ: a further drag there tells most.
struct UnsurePlace {
    int x = 0, y = 0;     // well within it
    double radiusPx = 0;  // how far it goes on about there
    double pixels = 0;
};

struct GrownRegion {
    Sides sides;
    std::vector<UnsurePlace> unsure;  // the largest first, at most three
};

// `guide` is denoised. Without anything surely inside nothing is.
GrownRegion grownRegion(const Guide& guide, const image::Plane<Sure>& sure, const RegionSettings& settings);

}  // namespace dimhem::edge
