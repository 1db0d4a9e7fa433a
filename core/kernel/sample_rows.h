// Between stored samples of 8 and 16 bits, interleaved, and planes of float.
#pragma once

#include <cstddef>
#include <cstdint>

namespace dimhem::kernel {

// The first three of 3 or 4 channels: each value divided by the largest, to the last bit.
void planesFromSamples(const std::uint8_t* from, std::size_t channels, float* const to[3], std::size_t count);
void planesFromSamples(const std::uint16_t* from, std::size_t channels, float* const to[3], std::size_t count);

// Three channels: held to 0..1, times the largest value, rounded to nearest. Gives back the samples that planes came
// from.
void samplesFromPlanes(const float* const from[3], std::uint8_t* to, std::size_t count);
void samplesFromPlanes(const float* const from[3], std::uint16_t* to, std::size_t count);

}  // namespace dimhem::kernel
