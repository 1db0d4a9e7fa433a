// Inside and outside told apart by their colours over a whole picture: mixtures of both sides (colour_mixture.h) and a
// cut (grid_cut.h), in turn, as in GrabCut (Rother, Kolmogorov, Blake, 2004; quoted from memory).
#pragma once

#include <cstdint>

#include "core/edge/grid_cut.h"
#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

enum class Sure : std::uint8_t { no, inside, outside };

// How much likelier than outside each pixel is inside, by its colour alone: log likelihood ratio, -8..8. The samples of
// each side are the pixels now on it; unknown pixels are none.
image::Plane<float> evidence(const Guide& guide, const Sides& sides, double noise);

// How much easier each pixel is reached from what is now inside than from what is outside, without crossing edges
// (barrier.h): as a log likelihood ratio, -6..6. It tells the shaded side of a thing from what merely has its colour.
image::Plane<float> nearness(const Guide& guide, const Sides& sides, double noise);

// A grid for cuts of the picture, of which nothing is known yet but what it costs to part neighbours: the less, the
// more they differ.
GridCut gridAlongEdges(const Guide& guide);

// The cheapest cut through such a grid: `inside` is the log likelihood ratio of inside. What is sure stays.
void cutAlongEdges(GridCut grid, const image::Plane<Sure>& sure, const image::Plane<float>& inside, Sides& sides);

}  // namespace dimhem::edge
