// How much the stages of this thread have worked: a count that tests hold to what there is of a document, as a
// machine's time is not the same twice.
#pragma once

#include <cstdint>

namespace dimhem::stage {

struct Effort {
    std::uint64_t keys = 0;   // worked out
    std::uint64_t calls = 0;  // of a stage's function, or a step's
};

Effort effortHere();
void countKey();
void countCall();

}  // namespace dimhem::stage
