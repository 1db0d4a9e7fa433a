// What edges are looked for in: the picture as OKLab (kernel/oklab_rows.h), and how noisy it is.
#pragma once

#include "core/image/plane.h"

namespace dimhem::edge {

struct Guide {
    image::Plane<float> l, a, b;
    base::Size size() const { return l.size(); }
};

// From encoded sRGB, whose memory it takes over.
Guide guideFrom(image::RgbPlanes encoded);

// The standard deviation of the noise in L, from how far each pixel departs from its neighbours (Immerkaer, "Fast
// Noise Variance Estimation", 1996), taken where it departs least (the lower third), so that texture is not mistaken
// for noise. Cited from memory, to be confirmed.
double noiseOf(const image::Plane<float>& l);

// The guide with noise of that deviation smoothed away and edges kept.
Guide denoised(const Guide& guide, double noise);

}  // namespace dimhem::edge
