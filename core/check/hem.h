// The hem check: how well a mask keeps to the edge of what it covers, from the photo and the mask alone.
//
// Near the mask's edge the matte is estimated anew from the photo (edge/snap.h, up to 10 pixels off). Where the mask
// covers more than the estimate it spills, where less it is short. Where edges crowd (leaves, stays, hair) that
// estimate would be wrong: there a gentler one is used, the mask smoothed along the photo's edges, and the place is
// counted as hard to measure. An edge that is much softer than the photo's, such as a gradient's, is not measured.
//
// Numbers are sums of coverage over the estimate's: spill = sum max(0, M - E) / sum E, in percent.
#pragma once

#include <cstdint>
#include <functional>
#include <vector>

#include "core/edge/guide.h"

namespace dimhem::check {

inline constexpr int hemMarginPx = 54;  // what a block must see beyond its own pixels

struct HemBlock {
    image::Plane<std::int8_t> difference;  // M - E in 1/100, of the block without its margin
    double spill = 0, shortfall = 0;       // sums of coverage, 0..1 a pixel
    double edge = 0, unmeasured = 0;       // pixels of the mask's edge, and those of them that were not measured
    std::size_t bytes() const { return difference.bytes(); }
};

// `mask`, 0..1, `solved`, the same solved along its edge, and `guide` cover the block and its margin on every side.
HemBlock hemOf(const edge::Guide& guide, const image::Plane<float>& mask, const image::Plane<float>& solved,
               double noise);

enum class FindingKind { spill, shortfall, gap, speck };

struct Finding {
    FindingKind kind;
    base::Rect bounds;  // in pixels of the level looked at
    double pixels = 0;
    std::vector<base::Point> outline;  // round it, in pixels of the level; of gaps and specks with their soft rim
    bool isFigure = false;             // a thing that stands in a gradient's way (figures.h)
    double roughPx = 0;                // how far off the outline may be, in pixels of the level
};

// Stretches of spill or shortfall of at least that many pixels.
std::vector<Finding> stretches(FindingKind kind, const image::Plane<std::int8_t>& difference, int leastPixels);

// Missed spots within the mask (gaps), or stray ones outside it (specks), that look like what is about them. `mask`
// is the whole photo's at one level; `guideOf` gives the guide over a rectangle of it.
std::vector<Finding> spots(FindingKind kind, const image::Plane<float>& mask,
                           const std::function<edge::Guide(const base::Rect&)>& guideOf);

void largestFirst(std::vector<Finding>& findings);

// The share of pixels that lie on the mask's edge, over windows of 81 x 81.
inline constexpr int crowdWindow = 40;  // pixels to either side
image::Plane<float> crowding(const image::Plane<float>& mask);

}  // namespace dimhem::check
