// How likely a random walk that starts at a pixel comes to one kind of source before the other (Grady, "Random Walks
// for Image Segmentation", PAMI 2006; cited from memory): the potential of a net of conductors that conduct badly
// across edges. Unlike the way of least hindrance (barrier.h) it does not leak through one small gap in an edge.
//
// What counts as an edge is told by the contrast about it: in texture small steps hinder nothing, on an even wall they
// do. Solved on the guide halved, by conjugate gradients.
#pragma once

#include "core/edge/guide.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

struct Walk {
    image::Plane<float> potential;  // 1 at sources inside, 0 at those outside
    // The potential whose contour lies along edges best: the least mean conductance across it; 0.05..0.95.
    double contour = 0.35;
};

// `sources` are inside, outside, or unknown: to be solved. As large as the guide.
Walk walked(const Guide& guide, const Sides& sources, double noise);

// How much of a contour does not lie along an edge, 0..1: the mean conductance across it, over steps of three pixels. 1
// where there is no contour.
double gapsAlong(const Guide& guide, const Sides& sides, double noise);

}  // namespace dimhem::edge
