// The value of a plane between its pixels.
#pragma once

#include <algorithm>

#include "core/image/plane.h"

namespace dimhem::kernel {

// At a place of the plane (pixel centres at .5), linear between the four pixels round it; beyond, the edge goes on.
template <class T>
double bilinear(const image::Plane<T>& plane, double x, double y) {
    const base::Size size = plane.size();
    const double cx = std::clamp(x - 0.5, 0.0, size.width - 1.0), cy = std::clamp(y - 0.5, 0.0, size.height - 1.0);
    const int y0 = static_cast<int>(cy), y1 = std::min(y0 + 1, size.height - 1);
    const auto x0 = static_cast<std::size_t>(cx), x1 = std::min(x0 + 1, static_cast<std::size_t>(size.width - 1));
    const double fx = cx - static_cast<double>(x0), fy = cy - y0;
    const auto row = [&](int line) {
        const auto values = plane.row(line);
        return static_cast<double>(values[x0]) * (1 - fx) + static_cast<double>(values[x1]) * fx;
    };
    return row(y0) * (1 - fy) + row(y1) * fy;
}

}  // namespace dimhem::kernel
