#include "core/base/memory_ceiling.h"

#include <unistd.h>

#include <fstream>

#include "core/base/heap.h"

namespace dimhem::base {

std::size_t machineMemory() {
    const long pages = ::sysconf(_SC_PHYS_PAGES), page = ::sysconf(_SC_PAGESIZE);
    return pages > 0 && page > 0 ? static_cast<std::size_t>(pages) * static_cast<std::size_t>(page) : 0;
}

std::size_t memoryInUse() {
    std::ifstream statm("/proc/self/statm");
    std::size_t all = 0, resident = 0;
    statm >> all >> resident;
    return statm ? resident * static_cast<std::size_t>(::sysconf(_SC_PAGESIZE)) : 0;
}

MemoryCeiling::MemoryCeiling(std::size_t bytes, std::function<std::size_t()> inUse)
    : bytes_(bytes), inUse_(std::move(inUse)) {}

std::size_t MemoryCeiling::bytes() const {
    const std::lock_guard lock(mutex_);
    return bytes_;
}

void MemoryCeiling::setBytes(std::size_t bytes) {
    const std::lock_guard lock(mutex_);
    bytes_ = bytes;
}

std::shared_ptr<void> MemoryCeiling::whenShort(std::function<void()> give) {
    const std::lock_guard lock(mutex_);
    const auto place = givers_.insert(givers_.end(), std::move(give));
    return {nullptr, [this, place](void*) {
                const std::lock_guard lockAgain(mutex_);
                givers_.erase(place);
            }};
}

bool MemoryCeiling::hasRoomFor(std::size_t more) {
    const std::lock_guard lock(mutex_);
    if (inUse_() + more <= bytes_) return true;
    for (const auto& give : givers_) give();
    giveBackFreed();  // what was given up stays with the heap otherwise
    return inUse_() + more <= bytes_;
}

void MemoryCeiling::keepTo(std::size_t more) {
    if (!hasRoomFor(more)) throw CeilingReached();
}

}  // namespace dimhem::base
