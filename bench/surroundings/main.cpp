// Prints what corrections that look round each pixel make of pictures whose truth is known:
//
//   surroundings_bench [DEMO] [noise | banding | haze | light-over | holes]    DEMO is the folder of the demo set
#include <cstdio>
#include <exception>
#include <string>

#include "bench/surroundings/outcomes.h"
#include "core/base/heap.h"
#include "core/base/parallel.h"

int main(int count, char** arguments) {
    using namespace dimhem::surroundings;
    dimhem::base::keepBlocksInHeap();
    const dimhem::base::SpareThreads spareThreads;
    const std::string demo = count > 1 ? arguments[1] : "demo", only = count > 2 ? arguments[2] : "";
    try {
        if (only.empty() || only == "noise") noiseOutcomes(demo);
        if (only.empty() || only == "banding") bandingOutcomes(demo);
        if (only.empty() || only == "haze") hazeOutcomes(demo);
        if (only.empty() || only == "light-over") lightOverOutcomes(demo);
        if (only.empty() || only == "holes") holeOutcomes(demo);
        return 0;
    } catch (const std::exception& error) {
        std::fprintf(stderr, "%s\n", error.what());
        return 1;
    }
}
