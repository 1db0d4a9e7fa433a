// A hole: the pixels of a picture that are to be filled from those around them.
#pragma once

#include <algorithm>
#include <cstdint>

#include "core/image/plane.h"

namespace dimhem::repair {

using Hole = image::Plane<std::uint8_t>;  // 1 to be filled, 0 known

// Coverage, 0..1, from which on a pixel is of the hole.
inline constexpr float leastCovered = 1.0f / 32;

inline Hole holeIn(const image::Plane<float>& coverage) {
    Hole hole(coverage.size());
    for (int y = 0; y < hole.size().height; ++y)
        std::transform(coverage.row(y).begin(), coverage.row(y).end(), hole.row(y).begin(),
                       [](float c) -> std::uint8_t { return c >= leastCovered; });
    return hole;
}

}  // namespace dimhem::repair
