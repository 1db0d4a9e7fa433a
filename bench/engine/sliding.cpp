// A step of a slider, until all pixels of the view are there.
#include "bench/engine/documents.h"
#include "bench/engine/measure.h"
#include "bench/engine/photos.h"
#include "core/adjust/banding.h"
#include "core/adjust/detail.h"
#include "core/adjust/glow.h"
#include "core/adjust/haze.h"
#include "core/adjust/noise.h"
#include "core/document/history.h"
#include "core/task/measuring.h"

namespace dimhem::bench {
namespace {

// At fit it fills a window of 1280 x 853 pixel by pixel.
constexpr base::Size photoOfWindow{5120, 3412};

void slide(benchmark::State& state, base::Size photo, document::DocumentPtr document, std::size_t correction) {
    const document::Correction moved = *document->corrections[correction];
    const render::Renderer renderer(sourceOf(photo), std::make_shared<render::TileCache>());
    const int level = fitLevel(photo);
    renderView(renderer, viewOf(document, photo, level, moved.id));
    Rounds round(state);
    double value = 0.1;
    for (auto _ : state) {
        value += 0.01;
        document = document::withAdjustment(*document, moved.id, moved.adjustments[0].id,
                                            [&](document::AdjustmentUse& u) { u.settings.values[0] = value; });
        round([&] { renderView(renderer, viewOf(document, photo, level, moved.id)); });
    }
}

// Of the bottom one (exposure) or the top one (the tint's strength) of the eight of the mixed chain, at 100 %.
void sliderMove(benchmark::State& state) {
    slide(state, photoOfWindow, correctionsOver(1, mixedChain(), photoOfWindow), state.range(0) == 1 ? 7 : 0);
}

// The same on 24 megapixels, whose level at fit has 1.5 megapixels, and on 100 with ten corrections at 30 %.
void sliderMoveOn24Megapixels(benchmark::State& state) {
    slide(state, photo24, correctionsOver(1, mixedChain(), photo24), state.range(0) == 1 ? 7 : 0);
}
void sliderMoveOn100Megapixels(benchmark::State& state) {
    slide(state, photo100, correctionsOver(0.3, mixedChain(), photo100, 10), state.range(0) == 1 ? 7 : 0);
}

// Of the bottom one of so many corrections.
void sliderUnderCorrections(benchmark::State& state) {
    slide(state, photo24, correctionsOver(0.3, mixedChain(), photo24, static_cast<int>(state.range(0))), 0);
}

// The first amount of a correction everywhere that looks round each pixel, its measuring done before; of banding, on
// steps that are taken for found.
void sliderOfSurroundings(benchmark::State& state, const adjust::AdjustmentKind* kind, std::size_t moved) {
    Chain chain = mixedChain();
    adjust::Settings settings = adjust::neutralSettings(*kind);
    settings.values[0] = kind == &adjust::detail ? 0 : 50;
    settings.values[moved] = 50;
    if (kind == &adjust::noise) settings.values = {50, 50, 0, 50};
    if (kind == &adjust::banding) settings.tables = {{0, 4, 0, 0, 1, 4, 0, 0, 2, 4, 0, 0}};
    chain[0] = {kind, settings};
    const render::Renderer renderer(sourceOf(photo24), std::make_shared<render::TileCache>());
    const document::DocumentPtr document = task::withAllMeasured(renderer, correctionsOver(1, chain, photo24, 1));
    const document::Correction& only = *document->corrections[0];
    const int level = fitLevel(photo24);
    renderView(renderer, viewOf(document, photo24, level, only.id));
    Rounds round(state);
    double value = 50;
    for (auto _ : state) {
        value += 0.1;
        const document::DocumentPtr next =
            document::withAdjustment(*document, only.id, only.adjustments[0].id,
                                     [&](document::AdjustmentUse& u) { u.settings.values[moved] = value; });
        round([&] { renderView(renderer, viewOf(next, photo24, level, only.id)); });
    }
}

// An edit that becomes a step, after so many steps.
void editAtDepth(benchmark::State& state) {
    document::DocumentPtr document = correctionsOver(0.3, mixedChain(), photo24);
    const document::Correction moved = *document->corrections[7];
    const auto edited = [&](double value) {
        return document::withAdjustment(*document, moved.id, moved.adjustments[0].id,
                                        [&](document::AdjustmentUse& u) { u.settings.values[0] = value; });
    };
    document::History history(document);
    for (int i = 0; i < state.range(0); ++i) history.commit(document = edited(10 + 0.001 * i), "step");
    const render::Renderer renderer(sourceOf(photo24), std::make_shared<render::TileCache>());
    renderView(renderer, viewOf(document, photo24, fitLevel(photo24), moved.id));
    Rounds round(state);
    double value = 50;
    for (auto _ : state) {
        value += 0.01;
        round([&] {
            history.commit(document = edited(value), "step");
            renderView(renderer, viewOf(document, photo24, fitLevel(photo24), moved.id));
        });
    }
}

void each(benchmark::internal::Benchmark* bench) {
    bench->UseManualTime()->Iterations(40)->Unit(benchmark::kMillisecond);
}

BENCHMARK(sliderMove)->ArgName("top")->Arg(0)->Arg(1)->Apply(each);
BENCHMARK(sliderMoveOn24Megapixels)->ArgName("top")->Arg(0)->Arg(1)->Apply(each);
BENCHMARK(sliderMoveOn100Megapixels)->ArgName("top")->Arg(0)->Arg(1)->Apply(each);
BENCHMARK(sliderUnderCorrections)->ArgName("corrections")->RangeMultiplier(2)->Range(1, 32)->Apply(each);
BENCHMARK_CAPTURE(sliderOfSurroundings, noise, &adjust::noise, 0)->Apply(each);
BENCHMARK_CAPTURE(sliderOfSurroundings, banding, &adjust::banding, 0)->Apply(each);
BENCHMARK_CAPTURE(sliderOfSurroundings, haze, &adjust::haze, 0)->Apply(each);
BENCHMARK_CAPTURE(sliderOfSurroundings, glow, &adjust::glow, 0)->Apply(each);
BENCHMARK_CAPTURE(sliderOfSurroundings, local_contrast, &adjust::detail, 0)->Apply(each);
BENCHMARK_CAPTURE(sliderOfSurroundings, sharpen, &adjust::detail, 2)->Apply(each);
BENCHMARK_CAPTURE(sliderOfSurroundings, soften, &adjust::detail, 6)->Apply(each);
BENCHMARK(editAtDepth)->ArgName("steps")->RangeMultiplier(10)->Range(1, 10000)->Apply(each);

}  // namespace
}  // namespace dimhem::bench
