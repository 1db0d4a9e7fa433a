// A file in memory to pixels.
#include "bench/engine/measure.h"
#include "bench/engine/photos.h"
#include "core/io/registry.h"

namespace dimhem::bench {
namespace {

void openFirstPixels(benchmark::State& state) {
    Rounds round(state);
    for (auto _ : state)
        round([] { benchmark::DoNotOptimize(io::readSmallPhoto(jpegFile(), "bench", 700)->samples.row(0)); });
}

void openAllPixels(benchmark::State& state) {
    Rounds round(state);
    for (auto _ : state) round([] { benchmark::DoNotOptimize(io::readPhoto(jpegFile(), "bench")->samples.row(0)); });
}

void openTiff(benchmark::State& state) {
    Rounds round(state);
    for (auto _ : state) round([] { benchmark::DoNotOptimize(io::readPhoto(tiffFile(), "bench")->samples.row(0)); });
}

// The levels that a view reads.
void openLevels(benchmark::State& state) {
    const auto photo = std::make_shared<const image::Photo>(madePhoto(photo24));
    Rounds round(state);
    for (auto _ : state) round([&] { benchmark::DoNotOptimize((*render::PhotoSource::make(photo))->levels()); });
}

BENCHMARK(openFirstPixels)->UseManualTime()->Iterations(8)->Unit(benchmark::kMillisecond);
BENCHMARK(openAllPixels)->UseManualTime()->Iterations(8)->Unit(benchmark::kMillisecond);
BENCHMARK(openTiff)->UseManualTime()->Iterations(5)->Unit(benchmark::kMillisecond);
BENCHMARK(openLevels)->UseManualTime()->Iterations(5)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace dimhem::bench
