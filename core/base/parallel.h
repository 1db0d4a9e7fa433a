// Work on many equal items over several threads.
//
// The items must not depend on one another; the outcome is then the same for any number of workers.
#pragma once

#include <cstddef>
#include <functional>

#include "core/base/cancel.h"

namespace dimhem::base {

struct Workers {
    int count = 0;  // 0: as many as the machine has cores; 1: on the calling thread alone
    // For tests: called before each item, to shake the order in which items are taken. Null otherwise.
    std::function<void(std::size_t)> delayHook;
};

// Calls `work(i)` once for each i in [0, items), unless cancelled before i was begun. Returns false where it was
// cancelled, or where an item threw Cancelled. The caller works too.
bool parallelFor(std::size_t items, const Workers& workers, const CancelToken& cancel,
                 const std::function<void(std::size_t)>& work);

// Runs work that may call parallelFor() so that, while it waits for its own items, this thread takes none of those of
// whoever called it: one of them could wait for this very work.
void isolated(const std::function<void()>& work);

}  // namespace dimhem::base
