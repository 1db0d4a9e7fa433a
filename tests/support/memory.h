// The most memory that some work takes, as the kernel counts it.
#pragma once

#include <cstddef>
#include <fstream>
#include <string>

namespace dimhem::tests {

inline std::size_t statusKb(const std::string& name) {
    std::ifstream status("/proc/self/status");
    for (std::string word; status >> word;) {
        std::size_t value = 0;
        if (word == name && status >> value) return value;
    }
    return 0;
}

// In MB, over what the process had before. The kernel's mark of the most is set back first (proc(5), clear_refs).
template <class Work>
double memoryTaken(Work work) {
    std::ofstream("/proc/self/clear_refs") << "5";
    const std::size_t before = statusKb("VmRSS:");
    work();
    const std::size_t most = statusKb("VmHWM:");
    return most > before ? static_cast<double>(most - before) / 1024 : 0;
}

}  // namespace dimhem::tests
