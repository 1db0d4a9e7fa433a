// White noise that goes by the place alone, for grain.
#pragma once

#include <cstddef>
#include <cstdint>

namespace dimhem::kernel {

// Three independent rows of mean 0 and variance 1, nearly normal (the sum of four even ones), from (x, y) on.
void whiteNoiseRows(float* const to[3], std::size_t count, int x, int y, std::uint32_t seed);

}  // namespace dimhem::kernel
