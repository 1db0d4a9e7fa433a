// A wire, rope, stay or rail, followed from one place to another: where its middle runs and how wide it is.
//
// Given is a strip of the picture about the straight way between the places. Each of its rows lies across that way, a
// pixel from the next; the middle of a row is on the way. The line's course is the way of least cost from the first row
// to the last through pixels that are unlike what lies on both their sides, at several widths, by dynamic programming
// (Amini, Weymouth, Jain, "Using Dynamic Programming for Solving Variational Problems in Vision", PAMI 1990; from
// memory). Then, in stretches, a line of even colour, blurred, over a ground that changes evenly is fitted across it,
// as least squares in linear light, where mixtures are linear.
#pragma once

#include <vector>

#include "core/image/plane.h"

namespace dimhem::edge {

struct LineSpot {
    double across = 0;  // of its middle, in pixels from the middle of the row
    double width = 1;   // in pixels, above 0
    double sure = 0;    // 0..1: how much of what is seen across it the fit explains
};

struct FollowedLine {
    std::vector<LineSpot> spots;  // one for each row of the strip
    double blur = 0.6;            // standard deviation of its edges in pixels, with that of the pixel itself
};

// How far from the middle the line may be at the first and at the last row, in pixels from 0.
struct LineEnds {
    double first = 0, last = 0;
};

// Rows of at least 3 pixels and an odd number of them; at least one row. `noise`: of the encoded picture.
FollowedLine followedLine(const image::LinearPlanes& strip, const LineEnds& ends, double noise);

// The share of a pixel that a line of that width covers, at a distance from its middle.
double lineCoverage(double distance, double width, double blur);

}  // namespace dimhem::edge
