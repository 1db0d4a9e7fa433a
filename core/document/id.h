// Ids of what a document holds.
#pragma once

#include <atomic>
#include <cstdint>

namespace dimhem::document {

using Id = std::int64_t;  // unique within a document; 0 is none

inline constexpr Id mostId = Id{1} << 52;  // that a document may give: whole numbers that any JSON reader keeps

// Gives out ids: one source for all versions of a document, so that what was given out once is never given again, not
// even after an undo. May be called from many threads.
class IdSource {
public:
    explicit IdSource(Id first = 1) : next_(first) {}
    Id next() { return next_.fetch_add(1, std::memory_order_relaxed); }

private:
    std::atomic<Id> next_;
};

}  // namespace dimhem::document
