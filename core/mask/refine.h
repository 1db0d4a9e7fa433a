// Refining a whole mask: what is done to it after its parts are combined.
//
// Steps, in this order:
//   1 fill gaps, drop specks  pieces of too little or of any coverage (below 95 %, above 5 %) whose bounding box is at
//   most
//                             so long become full or empty
//   2 smooth, expand          the signed distance to the 50 % contour is smoothed (Gaussian of half the number) and
//   shifted;
//                             the mask is read from where its old distance equals the new one, so that its own softness
//                             goes with its edge
//   3 edge snap               the 50 % line moves to the photo's edge where that is at most so far off (edge/snap.h),
//                             as much of the way as its strength says; done in blocks of fixed places (mask.cpp)
//   4 feather                 Gaussian; the number is the distance over which a hard edge goes from 90 % to 10 %
//   5 floor, ceiling          coverage up to the floor becomes none, from the ceiling on full, linear between
// Numbers are pixels of the photo (steps 1 to 4) or percent. The photo's border is no edge: masks go on beyond it.
#pragma once

#include <span>

#include "core/base/param.h"
#include "core/mask/blur_plan.h"

namespace dimhem::mask {

struct Refine {
    double featherPx = 0, expandPx = 0, smoothPx = 0, fillGapsPx = 0, dropSpecksPx = 0, floorPct = 0, ceilingPct = 100,
           edgeSnapPx = 0, edgeSnapPct = 100;
    friend bool operator==(const Refine&, const Refine&) = default;
};

using RefineParam = base::MemberParam<Refine>;
std::span<const RefineParam> refineParams();
void addTo(base::KeyBuilder& key, const Refine& refine);

// Sets one of them; the floor and the ceiling push each other along, so that the one is never above the other.
void setRefine(Refine& refine, double Refine::*which, double value);

bool isNeutral(const Refine& refine);

// The steps before the edge snap alone, and those after it.
Refine beforeSnap(const Refine& refine);
Refine afterSnap(const Refine& refine);

// What must be rendered unrefined for the area, and the refined area from it, by all steps but the edge snap.
// `unrefined` covers plan.area and is used up.
BlurPlan planRefine(const Refine& refine, const Area& area);
CoveragePtr refined(const Refine& refine, image::Plane<float> unrefined, const BlurPlan& plan, const Area& area);

}  // namespace dimhem::mask
