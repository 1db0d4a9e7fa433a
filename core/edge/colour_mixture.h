// The colours of one side of an edge as a mixture of up to five normal distributions, as in Rother, Kolmogorov, Blake,
// "GrabCut", SIGGRAPH 2004 (cited from memory).
#pragma once

#include <vector>

#include "core/edge/colour_bins.h"

namespace dimhem::edge {

class ColourMixture {
public:
    // Of weighted colours; the same colours in the same order give the same mixture. None: like anything.
    struct Sample {
        Colour colour;
        float weight;
    };
    ColourMixture(const std::vector<Sample>& samples, double noise);

    // At a colour.
    double density(const Colour& colour) const;

private:
    struct Part {
        double logWeight = 0;  // with what the covariance adds
        std::array<double, 3> mean{};
        std::array<double, 6> inverse{};  // of the covariance: 00 01 02 11 12 22
    };
    std::vector<Part> parts_;
};

}  // namespace dimhem::edge
