// What a person waits for, on made photos: opening, a brush dab, a slider, an export; beside a memory copy of 24
// megapixels of RGBA float, timed in the same run.
//
//   engine_bench [--avx2] --benchmark_out=FILE --benchmark_out_format=json
//
// --avx2 leaves wider vectors unused where the processor has them.
#include <hwy/targets.h>

#include <cstring>
#include <utility>

#include "bench/engine/measure.h"
#include "bench/engine/table.h"
#include "core/base/heap.h"
#include "core/base/parallel.h"

namespace {

void copy24Megapixels(benchmark::State& state) {
    for (auto _ : state) state.SetIterationTime(dimhem::bench::copySeconds());
    state.counters["x_copy"] = 1;
    state.counters["median_ms"] = 1e3 * dimhem::bench::copySeconds();
}
BENCHMARK(copy24Megapixels)->UseManualTime()->Iterations(1)->Unit(benchmark::kMillisecond);

}  // namespace

int main(int argc, char** argv) {
    dimhem::base::keepBlocksInHeap();  // as the program does
    const dimhem::base::SpareThreads spareThreads;
    if (argc > 1 && std::strcmp(argv[1], "--avx2") == 0) {
        hwy::DisableTargets(HWY_AVX3 | HWY_AVX3_DL);
        std::swap(argv[0], argv[1]);
        ++argv;
        --argc;
    }
    benchmark::Initialize(&argc, argv);
    dimhem::bench::Table table;
    benchmark::RunSpecifiedBenchmarks(&table);
    benchmark::Shutdown();
}
