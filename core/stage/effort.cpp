#include "core/stage/effort.h"

namespace dimhem::stage {

namespace {

thread_local Effort effort;

}  // namespace

Effort effortHere() {
    return effort;
}

void countKey() {
    ++effort.keys;
}

void countCall() {
    ++effort.calls;
}

}  // namespace dimhem::stage
