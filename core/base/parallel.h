// Work on many equal items over several threads.
//
// The items must not depend on one another; the outcome is then the same for any number of workers.
#pragma once

#include <cstddef>
#include <functional>
#include <memory>

#include "core/base/cancel.h"

namespace dimhem::base {

struct Workers {
    int count = 0;  // 0: as many as the machine has cores; 1: on the calling thread alone
    // For tests: called before each item, to shake the order in which items are taken. Null otherwise.
    std::function<void(std::size_t)> delayHook{};
};

// Calls `work(i)` once for each i in [0, items), unless cancelled before i was begun. Returns false where it was
// cancelled, or where an item threw Cancelled. The caller works too.
[[nodiscard]] bool parallelFor(std::size_t items, const Workers& workers, const CancelToken& cancel,
                               const std::function<void(std::size_t)>& work);

// The same for whoever can make nothing of a part: throws Cancelled instead of returning false.
void parallelForAll(std::size_t items, const Workers& workers, const CancelToken& cancel,
                    const std::function<void(std::size_t)>& work);

// Runs work that may call parallelFor() apart: while this thread waits for its own items it takes none of those of
// whoever called it, since one of them could wait for this very work.
void apart(const std::function<void()>& work);

// Has the calling thread give way to those a person waits for, wherever there are fewer cores than threads.
void giveWay();

// While there is one, more threads work than the machine has cores: those that wait for what another one makes then
// leave no core without work; and all of them give way. Each program has one.
class SpareThreads {
public:
    SpareThreads();
    ~SpareThreads();

private:
    struct Allowed;
    std::unique_ptr<Allowed> allowed_;
};

}  // namespace dimhem::base
