#include "bench/engine/measure.h"

#include <linux/perf_event.h>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

#include <algorithm>
#include <chrono>
#include <cstring>
#include <fstream>
#include <string>

#include "core/base/parallel.h"

namespace dimhem::bench {

namespace {

long pageFaults() {
    rusage usage{};
    ::getrusage(RUSAGE_SELF, &usage);
    return usage.ru_minflt;
}

int openMissCounter() {
    perf_event_attr attributes{};
    attributes.size = sizeof attributes;
    attributes.type = PERF_TYPE_HARDWARE;
    attributes.config = PERF_COUNT_HW_CACHE_MISSES;
    attributes.exclude_kernel = 1;
    return static_cast<int>(::syscall(SYS_perf_event_open, &attributes, 0, -1, -1, 0));
}

}  // namespace

double secondsOf(const std::function<void()>& work) {
    using Clock = std::chrono::steady_clock;
    const auto begin = Clock::now();
    work();
    return std::chrono::duration<double>(Clock::now() - begin).count();
}

double copySeconds() {
    static const double seconds = [] {
        const std::size_t bytes = std::size_t{16} * 6000 * 4000, parts = 96;
        std::vector<char> from(bytes, 1), to(bytes, 2);
        double best = 1e9;
        for (int i = 0; i < 9; ++i) {
            best = std::min(best, secondsOf([&] {
                                base::parallelForAll(parts, {}, {}, [&](std::size_t p) {
                                    std::memcpy(to.data() + p * (bytes / parts), from.data() + p * (bytes / parts),
                                                bytes / parts);
                                });
                            }));
        }
        return best;
    }();
    return seconds;
}

void resetPeak() {
    std::ofstream("/proc/self/clear_refs") << "5";
}

double peakMegabytes() {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);) {
        if (line.starts_with("VmHWM:")) return std::stod(line.substr(6)) / 1024;
    }
    return 0;
}

Rounds::Rounds(benchmark::State& state) : state_(state), faultsBefore_(pageFaults()), misses_(openMissCounter()) {}

Rounds::~Rounds() {
    const auto rounds = static_cast<double>(seconds_.size());
    state_.counters["faults"] = static_cast<double>(pageFaults() - faultsBefore_) / rounds;
    long long misses = 0;
    if (misses_ >= 0 && ::read(misses_, &misses, sizeof misses) != sizeof misses) misses = 0;
    if (misses_ >= 0) ::close(misses_);
    state_.counters["misses"] = static_cast<double>(misses) / 1000 / rounds;
    std::sort(seconds_.begin(), seconds_.end());
    state_.counters["p95_ms"] = 1e3 * seconds_[static_cast<std::size_t>(0.95 * (rounds - 1))];
    state_.counters["median_ms"] = 1e3 * seconds_[seconds_.size() / 2];
    state_.counters["x_copy"] = seconds_[seconds_.size() / 2] / copySeconds();
}

void Rounds::operator()(const std::function<void()>& work) {
    seconds_.push_back(secondsOf(work));
    state_.SetIterationTime(seconds_.back());
}

}  // namespace dimhem::bench
