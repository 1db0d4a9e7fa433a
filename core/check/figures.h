// Figures that stand in a gradient's way: a tower before the sky that is darkened, a post on the ground that is lifted.
//
// A gradient ends at no edge, so that it cannot be asked how well it keeps to one. But it is laid for something: what
// its fullest part lies over, found from there as a region (edge/grown_region.h). What else it covers, with a clear
// edge between, it was not meant for. Where its fullest part lies over many things, or its ground cannot be told,
// nothing is found.
#pragma once

#include "core/check/hem.h"

namespace dimhem::check {

// `mask`, 0..1, and the denoised guide are of the whole photo at one level, of some hundred thousand pixels. Each is
// spill: its pixels are the sum of what the mask covers of it; its outline goes round all of it, also where the mask
// has faded to nothing.
std::vector<Finding> figuresIn(const image::Plane<float>& mask, const edge::Guide& guide, double noise);

}  // namespace dimhem::check
