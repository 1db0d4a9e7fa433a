// Which pixels about a dab belong to the thing its centre is on.
//
// The colours met under the centres of a stroke are its model of the thing; what is in the window but not in the model
// is taken for something else. How often a colour occurs in the window, h_w, is a mixture of how often the thing has
// it, h_f, and the rest: h_w = pi h_f + (1 - pi) h_b, so a pixel of that colour belongs to the thing with
// p = pi h_f / h_w. The share pi is the q-quantile, over the model, of h_w / h_f: no sample of the background is
// needed. q is the tolerance: low holds to colours as common in the model as in the window only.
//
// Membership must also be connected: a pixel has no more than the weakest pixel on the best way to it from the centre
// (fuzzy connectedness: Udupa and Samarasekera, 1996). Cited from memory.
#pragma once

#include <vector>

#include "core/edge/colour_bins.h"

namespace dimhem::edge {

// Which pixels within `radius` of the centre are on what the centre itself is on, 1: all of them, unless their colours
// fall into two kinds that lie to either side, as where the centre runs close to an edge; then those of the centre's
// kind, and, `inwardPx` farther from the other kind, as many of what is like them: one narrow strip beside an edge says
// little of what the thing looks like. As large as the guide; 0 elsewhere.
image::Plane<std::uint8_t> coreOf(const Guide& guide, base::Point centre, double radius, double noise, double inwardPx);

// The colours of the core, at most `most` of them, evenly taken.
void addColours(const Guide& guide, const image::Plane<std::uint8_t>& core, std::size_t most, std::vector<Colour>& to);

struct HoldSettings {
    double tolerance = 0.75;  // q, 0.25 strict .. 0.9 loose
    double noise = 0;         // of the guide before it was denoised
};

// How much each pixel belongs by its colour alone, 0..1.
image::Plane<float> membership(const Guide& guide, const std::vector<Colour>& model, double tolerance);

// How much each pixel of the window belongs, 0..1. `guide` is denoised; belonging begins at the core.
image::Plane<float> held(const Guide& guide, const image::Plane<std::uint8_t>& core, const std::vector<Colour>& model,
                         const HoldSettings& settings);

}  // namespace dimhem::edge
