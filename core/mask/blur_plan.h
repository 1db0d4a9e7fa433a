// How an area that needs a wide blur is computed: at a coarser level, where the blur is short, and read back from
// there.
//
// The level is chosen so that sigma is 4 to 8 pixels of it (or less, where the area's own level is coarse enough);
// reading back is bilinear, off by less than 0.2 % of coverage at that sigma. So a wide feather costs no more than a
// short one, and fit view and export, which come to nearly the same level, agree.
#pragma once

#include "core/mask/coverage.h"

namespace dimhem::mask {

struct BlurPlan {
    Area area;         // to be rendered and blurred: at its level, with the margin the blur and the reading need
    double sigma = 0;  // in pixels of that level
};

inline void addTo(base::KeyBuilder& key, const BlurPlan& plan) {
    addTo(key, plan.area);
    key.add(plan.sigma);
}

// `sigmaPx` and `extraPx` (a margin for other work done there) in pixels of the photo.
BlurPlan planBlur(const Area& area, double sigmaPx, double extraPx = 0);

// The pixels of `area` out of a plane that covers plan.area, 0..1 each.
CoveragePtr readBack(const image::Plane<float>& plane, const BlurPlan& plan, const Area& area);

}  // namespace dimhem::mask
