// How much a pixel belongs to the dark, the middle and the light tones: Bernstein weights of t = L*/100 (CIE 15),
// smooth and summing to one.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>

namespace dimhem::adjust {

// From the luminance Y; below 0 and above 1 as at the ends.
inline std::array<float, 3> toneWeights(float y) {
    constexpr float linearUpTo = 216.0f / 24389, slope = 24389.0f / 27;
    const float t = y <= linearUpTo ? std::max(0.0f, y) * slope / 100 : std::min(1.0f, 1.16f * std::cbrt(y) - 0.16f);
    return {(1 - t) * (1 - t), 2 * t * (1 - t), t * t};
}

}  // namespace dimhem::adjust
