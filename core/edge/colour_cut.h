// Inside and outside told apart by their colours over a whole picture: mixtures of both sides (colour_mixture.h) and a
// cut (grid_cut.h), in turn, as in GrabCut (Rother, Kolmogorov, Blake, 2004; quoted from memory).
#pragma once

#include <array>
#include <cstdint>

#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

enum class Sure : std::uint8_t { no, inside, outside };

struct ColourCutSettings {
    int rounds = 4;
    double bias = 0;   // added to the log likelihood of inside, -8..8
    double noise = 0;  // as of noiseOf
};

// How much likelier than outside each pixel is inside, by its colour alone: log likelihood ratio, -8..8. The samples of
// each side are the pixels now on it; unknown pixels are none.
image::Plane<float> evidence(const Guide& guide, const Sides& sides, double noise);

// How much easier each pixel is reached from what is now inside than from what is outside, without crossing edges
// (barrier.h): as a log likelihood ratio, -6..6. It tells the shaded side of a thing from what merely has its colour.
image::Plane<float> nearness(const Guide& guide, const Sides& sides, double noise);

// What it costs a cut to part each pixel from its neighbours to the right, down left, below and down right: the less,
// the more they differ. 0 towards what lies beyond the picture.
using PartingCosts = image::Plane<std::array<std::int32_t, 4>>;
PartingCosts partingCosts(const Guide& guide);

// The cheapest cut along edges: `inside` is the log likelihood ratio of inside. What is sure stays.
void cutAlongEdges(const PartingCosts& parting, const image::Plane<Sure>& sure, const image::Plane<float>& inside,
                   Sides& sides);

// `sides` holds the first guess and becomes the outcome. What is sure stays; `nearness` counts in every round.
void cutByColour(const Guide& guide, const image::Plane<Sure>& sure, const image::Plane<float>& nearness,
                 const ColourCutSettings& settings, Sides& sides);

}  // namespace dimhem::edge
