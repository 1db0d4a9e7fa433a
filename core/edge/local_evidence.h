// How much likelier than outside each pixel is inside, by the colours of both sides near it.
//
// One mixture (colour_mixture.h) for the whole of each side cannot tell a dark coat from the dark wood behind it where
// the wood is bright elsewhere, nor hold the many colours of a large thing. So both are fitted anew in windows that
// overlap, and the outcome of four windows is blended at each pixel. A side of which a window holds little leans on the
// model of the whole picture.
#pragma once

#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

// Log likelihood ratio, -8..8. The samples of each side are the pixels now on it; unknown pixels are none.
image::Plane<float> localEvidence(const Guide& guide, const Sides& sides, double noise);

}  // namespace dimhem::edge
