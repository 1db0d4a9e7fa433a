#include "core/base/heap.h"

#include <malloc.h>
#include <sys/mman.h>

#include <cstdint>

namespace dimhem::base {

void keepBlocksInHeap() {
    constexpr int largestKept = 8 << 20, unusedKept = 128 << 20;  // bytes
    mallopt(M_MMAP_THRESHOLD, largestKept);
    mallopt(M_TRIM_THRESHOLD, unusedKept);
}

void giveBackFreed() {
    ::malloc_trim(0);
}

void preferLargePages(void* memory, std::size_t bytes) {
    constexpr std::uintptr_t page = std::uintptr_t{2} << 20;
    const auto at = reinterpret_cast<std::uintptr_t>(memory);
    const std::uintptr_t begin = (at + page - 1) / page * page, end = (at + bytes) / page * page;
    if (begin < end)
        ::madvise(reinterpret_cast<void*>(begin), end - begin, MADV_HUGEPAGE);  // a wish: it may be refused
}

}  // namespace dimhem::base
