#include "core/base/long_work.h"

namespace dimhem::base {

namespace {

thread_local std::uint64_t count = 0;

}  // namespace

void countLongWork() {
    ++count;
}

std::uint64_t longWorkHere() {
    return count;
}

}  // namespace dimhem::base
