// The most memory that a session takes.
#include "bench/engine/documents.h"
#include "bench/engine/exporting.h"
#include "bench/engine/measure.h"
#include "bench/engine/photos.h"

namespace dimhem::bench {
namespace {

// Opening (the photo's own samples and levels), a view at fit and at 1:1, an export: the most that it takes, less what
// the process held before.
void peakMemory(benchmark::State& state, base::Size size, int count) {
    const document::DocumentPtr document =
        correctionsOver(static_cast<double>(state.range(0)) / 100, mixedChain(), size, count);
    for (auto _ : state) {
        resetPeak();
        const render::Renderer renderer(sourceOf(size), std::make_shared<render::TileCache>());
        state.SetIterationTime(secondsOf([&] {
            for (const int level : {fitLevel(size), 0})
                renderView(renderer, viewOf(document, size, level, document->corrections.back()->id));
            exportOnce(size, document);
        }));
    }
    state.counters["peak_MB"] = peakMegabytes();
}

BENCHMARK_CAPTURE(peakMemory, at_24_megapixels, photo24, 8)
    ->ArgName("percent")
    ->Arg(30)
    ->Arg(100)
    ->UseManualTime()
    ->Iterations(1)
    ->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(peakMemory, at_100_megapixels, photo100, 10)
    ->ArgName("percent")
    ->Arg(30)
    ->UseManualTime()
    ->Iterations(1)
    ->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace dimhem::bench
