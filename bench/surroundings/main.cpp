// Prints what corrections that look round each pixel make of pictures whose truth is known.
#include <cstdio>
#include <exception>

#include "bench/surroundings/outcomes.h"
#include "core/base/heap.h"

int main(int count, char** arguments) {
    dimhem::base::keepBlocksInHeap();
    try {
        dimhem::surroundings::noiseOutcomes(count > 1 ? arguments[1] : "demo");
        return 0;
    } catch (const std::exception& error) {
        std::fprintf(stderr, "%s\n", error.what());
        return 1;
    }
}
