// Pictures made smaller: each pixel becomes the mean over the area of the larger picture that it covers, parts of
// pixels counted by their area. No pixel takes from beyond its own area, so no edge gains a rim.
//
// The values are to be such as can be averaged: linear light, colours taken times their alpha.
#pragma once

#include <span>
#include <vector>

#include "core/base/rect.h"

namespace dimhem::image {

// What one pixel of a smaller axis covers of the larger one: [first, last], the pixels at the ends in part.
struct AxisShare {
    int first, last;
    float firstPart, lastPart;  // 0..1 of a pixel; where first is last, firstPart alone counts
    float scale;                // 1 / all parts together
    // How much of pixel `at`, within [first, last], is covered; all of a share add up to 1.
    float of(int at) const { return (at == first ? firstPart : at == last ? lastPart : 1.0f) * scale; }
};

// 1 <= to <= from.
std::vector<AxisShare> axisShares(int from, int to);

// The means along one row.
void meanRow(std::span<const float> row, std::span<const AxisShare> shares, std::span<float> out);

// The size whose longer side is at most `longSidePx`, in the picture's shape, no side below 1 px; never larger.
base::Size sizeWithin(base::Size size, int longSidePx);

}  // namespace dimhem::image
