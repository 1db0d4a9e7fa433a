#include "core/base/heap.h"

#include <malloc.h>

namespace dimhem::base {

void keepBlocksInHeap() {
    constexpr int largestKept = 8 << 20, unusedKept = 128 << 20;  // bytes
    mallopt(M_MMAP_THRESHOLD, largestKept);
    mallopt(M_TRIM_THRESHOLD, unusedKept);
}

}  // namespace dimhem::base
