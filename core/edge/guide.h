// What edges are looked for in: the picture as OKLab (kernel/oklab_rows.h), and how noisy it is.
#pragma once

#include "core/image/plane.h"

namespace dimhem::edge {

struct Guide {
    image::Plane<float> l, a, b;
    base::Size size() const { return l.size(); }
    std::size_t bytes() const { return 3 * l.bytes(); }
};

// Of the colours of two pixels.
inline double squaredDifference(const Guide& guide, int x0, int y0, int x1, int y1) {
    const double l = double{guide.l.row(y0)[x0]} - double{guide.l.row(y1)[x1]},
                 a = double{guide.a.row(y0)[x0]} - double{guide.a.row(y1)[x1]},
                 b = double{guide.b.row(y0)[x0]} - double{guide.b.row(y1)[x1]};
    return l * l + a * a + b * b;
}

// From encoded sRGB, whose memory it takes over.
Guide guideFrom(image::EncodedPlanes encoded);

// The standard deviation of the noise in L, from how far each pixel departs from its neighbours (Immerkaer, "Fast
// Noise Variance Estimation", 1996), taken where it departs least (the lower third), so that texture is not mistaken
// for noise. Cited from memory.
double noiseOf(const image::Plane<float>& l);

// Each pixel the mean of four: of half the size, rounded up.
Guide halved(const Guide& guide);

// The guide with noise of that deviation smoothed away and edges kept.
Guide denoised(const Guide& guide, double noise);

}  // namespace dimhem::edge
