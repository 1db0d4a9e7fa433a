// How the benchmarks measure: times as ratios to a memory copy of the same run, and what the processor counted.
#pragma once

#include <benchmark/benchmark.h>

#include <functional>
#include <vector>

namespace dimhem::bench {

double secondsOf(const std::function<void()>& work);

// Seconds to copy 24 megapixels of RGBA float on all cores: the least of several.
double copySeconds();

// The most memory the process has held since resetPeak(), in megabytes of 2^20 bytes.
void resetPeak();
double peakMegabytes();

// Times each round, and counts page faults and, where the machine lets it, cache misses; when it goes, it leaves
//   x_copy   the median over copySeconds()
//   median_ms, p95_ms
//   faults   page faults of a round, on the average
//   misses   last-level cache misses of a round in thousands, of this thread; 0 where they cannot be counted
class Rounds {
public:
    explicit Rounds(benchmark::State& state);
    ~Rounds();
    void operator()(const std::function<void()>& work);

private:
    benchmark::State& state_;
    std::vector<double> seconds_;
    long faultsBefore_;
    int misses_;  // of perf_event_open
};

}  // namespace dimhem::bench
