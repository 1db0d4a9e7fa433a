// Adding rows of floats.
#pragma once

#include <cstddef>

namespace dimhem::kernel {

// to += from. The two must not overlap.
void addTo(const float* from, float* to, std::size_t count);

// to = a + b; `to` overlaps neither, a and b may overlap.
void sumOf(const float* a, const float* b, float* to, std::size_t count);

}  // namespace dimhem::kernel
