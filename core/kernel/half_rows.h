// Between float and IEEE 754 half precision (binary16), whose bits are kept in std::uint16_t. For caches and the
// levels of the view only: one rounding of an encoded value in 0..1 is off by at most 1/4096, a sixteenth of an 8-bit
// step. Values beyond 65504 become infinite: callers keep them below.
#pragma once

#include <cstddef>
#include <cstdint>

namespace dimhem::kernel {

void halfFromFloat(const float* from, std::uint16_t* to, std::size_t count);
void floatFromHalf(const std::uint16_t* from, float* to, std::size_t count);

}  // namespace dimhem::kernel
