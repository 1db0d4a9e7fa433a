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

// The colours within `radius` of a place of the guide, at most `most` of them, evenly taken.
void addColours(const Guide& guide, base::Point centre, double radius, std::size_t most, std::vector<Colour>& to);

struct HoldSettings {
    double tolerance = 0.75;  // q, 0.25 strict .. 0.9 loose
    double noise = 0;         // of the guide before it was denoised
};

// How much each pixel belongs by its colour alone, 0..1.
image::Plane<float> membership(const Guide& guide, const std::vector<Colour>& model, double tolerance);

// How much each pixel of the window belongs, 0..1. `guide` is denoised; `centre` and `coreRadius` in its pixels.
image::Plane<float> held(const Guide& guide, base::Point centre, double coreRadius, const std::vector<Colour>& model,
                         const HoldSettings& settings);

}  // namespace dimhem::edge
