// Stored samples of 8 and 16 bits, interleaved, as planes of float: each value divided by the largest, to the last bit.
#pragma once

#include <cstddef>
#include <cstdint>

namespace dimhem::kernel {

// The first three of 3 or 4 channels.
void planesFromSamples(const std::uint8_t* from, std::size_t channels, float* const to[3], std::size_t count);
void planesFromSamples(const std::uint16_t* from, std::size_t channels, float* const to[3], std::size_t count);

}  // namespace dimhem::kernel
