// What the figures are to reach: the limits of the processor and the memory as far as a prototype of each inner loop
// came to them (2 cores, AVX-512), times the overhead of a real engine.
#pragma once

#include <span>
#include <string_view>

namespace dimhem::bench {

struct Target {
    std::string_view figure;   // the benchmark's name
    std::string_view counter;  // x_copy, p95_ms, peak_MB, times_ours
    double value;
    bool atLeast = false;  // else at most
};

std::span<const Target> targets();

}  // namespace dimhem::bench
