// How much a pixel belongs to the dark, the middle and the light tones: Bernstein weights of t = L*/100 (CIE 15),
// smooth and summing to one.
#pragma once

#include <algorithm>
#include <array>
#include <bit>
#include <cstdint>

namespace dimhem::adjust {

// The cube root of a value above 0, within 2e-5: a first guess from the exponent, then Newton's method twice.
inline float cubeRoot(float v) {
    constexpr std::uint32_t offset = 709921077;  // two thirds of the exponent's bias, and what evens out the guess
    float root = std::bit_cast<float>(std::bit_cast<std::uint32_t>(v) / 3 + offset);
    root = (2 * root + v / (root * root)) / 3;
    return (2 * root + v / (root * root)) / 3;
}

// From the luminance Y; below 0 and above 1 as at the ends.
inline std::array<float, 3> toneWeights(float y) {
    constexpr float linearUpTo = 216.0f / 24389, slope = 24389.0f / 27;
    const float t = y <= linearUpTo ? std::max(0.0f, y) * slope / 100 : std::min(1.0f, 1.16f * cubeRoot(y) - 0.16f);
    return {(1 - t) * (1 - t), 2 * t * (1 - t), t * t};
}

}  // namespace dimhem::adjust
