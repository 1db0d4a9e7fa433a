// The contour lines of a mask: where its coverage passes a value.
#pragma once

#include <cstdint>
#include <functional>
#include <vector>

#include "core/base/rect.h"
#include "core/image/plane.h"

namespace dimhem::check {

// Lines along which the values, taken at pixel centres and linear between them, equal `value` (marching squares).
// Closed lines end where they begin; the others run out of the plane. In pixels of the plane, (0, 0) its top left
// corner.
std::vector<std::vector<base::Point>> contours(const image::Plane<std::uint16_t>& values, double value);

// The longest line round what is `in`, within bounds.
std::vector<base::Point> longestOutline(const base::Rect& bounds, const std::function<bool(int x, int y)>& in);

}  // namespace dimhem::check
