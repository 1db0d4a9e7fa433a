// A matte solved where it is not known: hair, leaves, grass, wires.
//
// In rounds: what the colours near by say (local_colours.h), solved together with how colours go on from pixel to pixel
// (matting_laplacian.h); what is sure by both becomes a sample for the next round, which finds the ground between
// leaves.
#pragma once

#include "core/edge/local_colours.h"

namespace dimhem::edge {

struct SolveSettings {
    int rounds = 3;
    double lambda = 0.2;  // of what the colours say
    double noise = 0;     // of the picture, encoded
};

// `mask`: 0..1, as it is; `zone`: 1 where it is not known. What is known stays as it is, and the side it is on counts.
// Only the zone within `domain` is solved. `at`: where the planes lie on the picture's lattice.
image::Plane<float> solvedMatte(const image::LinearPlanes& picture, base::Point at, const image::Plane<float>& mask,
                                const image::Plane<std::uint8_t>& zone, const base::Rect& domain,
                                const SolveSettings& settings = {});

}  // namespace dimhem::edge
