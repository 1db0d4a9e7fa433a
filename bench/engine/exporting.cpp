#include "bench/engine/exporting.h"

#include <unistd.h>

#include <filesystem>

#include "bench/engine/documents.h"
#include "bench/engine/measure.h"
#include "bench/engine/photos.h"
#include "core/mask/brush.h"
#include "core/mask/colour_range.h"
#include "core/mask/luminosity_range.h"
#include "core/task/export.h"
#include "tests/support/opened.h"

namespace dimhem::bench {

void exportOnce(base::Size photo, const document::DocumentPtr& document) {
    const std::string path = "/tmp/dimhem-bench-out-" + std::to_string(::getpid()) + ".jpg";
    (void)task::exportPicture(tests::openedOf(sourceOf(photo)), document, path, {});
    std::filesystem::remove(path);
}

namespace {

void exportRounds(benchmark::State& state, base::Size photo, const document::DocumentPtr& document) {
    sourceOf(photo);
    Rounds round(state);
    for (auto _ : state) round([&] { exportOnce(photo, document); });
}

// Eight corrections of the mixed chain under masks of a part of the photo.
void exportJpeg(benchmark::State& state) {
    exportRounds(state, photo24, correctionsOver(static_cast<double>(state.range(0)) / 100, mixedChain(), photo24));
}

// 100 megapixels with one correction through a mask.
document::DocumentPtr uncorrected() {
    return std::make_shared<document::Document>();
}
document::DocumentPtr strokes() {
    return withMask(std::make_shared<mask::Brush>(manyStrokes(300, photo100)));
}
document::DocumentPtr colours() {
    mask::ColourRangeValues values;
    values.picks = {{{1000, 1000}, {50, 5, 12}}, {{3000, 1000}, {60, 2, 8}}, {{2000, 2500}, {40, 4, 10}}};
    return withMask(std::make_shared<mask::ColourRange>(values));
}
document::DocumentPtr tones() {
    mask::Refine refine;
    refine.featherPx = 20;
    return withMask(std::make_shared<mask::LuminosityRange>(mask::LuminosityRangeValues{}), refine);
}
document::DocumentPtr heldStrokes() {
    mask::Refine refine;
    refine.edgeSnapPx = 6;
    return withMask(std::make_shared<mask::Brush>(manyStrokes(20, photo100, true)), refine);
}
document::DocumentPtr tenCorrections() {
    return correctionsOver(0.3, mixedChain(), photo100, 10);
}

void exportLarge(benchmark::State& state, document::DocumentPtr (*document)()) {
    exportRounds(state, photo100, document());
}

BENCHMARK(exportJpeg)
    ->ArgName("percent")
    ->Arg(5)
    ->Arg(30)
    ->Arg(100)
    ->UseManualTime()
    ->Iterations(4)
    ->Unit(benchmark::kMillisecond);

void once(benchmark::internal::Benchmark* bench) {
    bench->UseManualTime()->Iterations(1)->Unit(benchmark::kMillisecond);
}

BENCHMARK_CAPTURE(exportLarge, no_correction, uncorrected)->Apply(once);
BENCHMARK_CAPTURE(exportLarge, ten_corrections, tenCorrections)->Apply(once);
BENCHMARK_CAPTURE(exportLarge, strokes, strokes)->Apply(once);
BENCHMARK_CAPTURE(exportLarge, colour_range, colours)->Apply(once);
BENCHMARK_CAPTURE(exportLarge, luminosity_range_feather_20, tones)->Apply(once);
BENCHMARK_CAPTURE(exportLarge, held_strokes_and_edge_snap, heldStrokes)->Apply(once);

}  // namespace
}  // namespace dimhem::bench
