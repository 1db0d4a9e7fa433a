// One more point of a stroke, until all pixels of the view are there.
#include <cmath>

#include "bench/engine/documents.h"
#include "bench/engine/measure.h"
#include "bench/engine/photos.h"
#include "core/adjust/light.h"
#include "core/adjust/paint.h"
#include "core/mask/brush.h"

namespace dimhem::bench {
namespace {

// A document whose last part is a brush that is being painted with.
struct Painting {
    base::Size photo;
    int level;
    document::DocumentPtr document;
    document::Id correction;
    document::Id part;
    mask::StrokePtr stroke;
    std::shared_ptr<render::TileCache> cache = std::make_shared<render::TileCache>();
    render::Renderer renderer{sourceOf(photo), cache};

    void show() {
        document = document::withPart(*document, correction, part, [&](mask::Part& p) {
            p.shape = std::static_pointer_cast<const mask::Brush>(p.shape)->withLast(stroke);
        });
        renderView(renderer, viewOf(document, photo, level, correction));
    }
};

mask::StrokePtr strokeAt(base::Point place, double radiusPx) {
    return std::make_shared<const mask::Stroke>(brushOf(radiusPx), mask::StrokePoint{place, 1});
}

// With a brush of 150 px radius on top of eight corrections at 30 %, about the middle of the photo.
Painting paintingOver(const document::DocumentPtr& document, base::Size photo, int level) {
    const document::Id correction = document->corrections.back()->id;
    const mask::StrokePtr stroke = strokeAt({photo.width * 0.45, photo.height * 0.5}, 150);
    const auto part = document::withNewPart(
        *document, correction, std::make_shared<mask::Brush>(std::vector<mask::StrokePtr>{stroke}), mask::Combine::add);
    return {photo, level, part.document, correction, part.id, stroke};
}

void paint(benchmark::State& state, Painting painting) {
    const base::Size photo = painting.photo;
    painting.show();
    Rounds round(state);
    double angle = 0;
    for (auto _ : state) {
        angle += 0.05;
        const base::Point next{photo.width * 0.5 + 300 * std::sin(angle),
                               photo.height * 0.5 + 250 * std::cos(1.3 * angle)};
        round([&] {
            painting.stroke = painting.stroke->extended({next, 1});
            painting.show();
        });
    }
}

void brushDab(benchmark::State& state) {
    const int level = state.range(0) == 1 ? fitLevel(photo24) : 0;
    paint(state, paintingOver(correctionsOver(0.3, lightAndWhiteBalance(), photo24), photo24, level));
}

// On 100 megapixels with ten corrections.
void brushDabOn100Megapixels(benchmark::State& state) {
    const int level = state.range(0) == 1 ? fitLevel(photo100) : 0;
    paint(state, paintingOver(correctionsOver(0.3, mixedChain(), photo100, 10), photo100, level));
}

Painting paintingOverStrokes(std::vector<mask::StrokePtr> strokes, const mask::StrokePtr& stroke) {
    strokes.push_back(stroke);
    const document::DocumentPtr document = withMask(std::make_shared<mask::Brush>(std::move(strokes)));
    const document::Correction& correction = *document->corrections[0];
    return {photo24, fitLevel(photo24), document, correction.id, correction.mask.parts[0]->id, stroke};
}

// Where so many strokes lie already: what came before is not worked out again.
void dabOverStrokes(benchmark::State& state) {
    paint(state,
          paintingOverStrokes(manyStrokes(static_cast<int>(state.range(0)), photo24), strokeAt({2700, 2000}, 150)));
}

// At the end of a stroke of so many points.
void dabOnALongStroke(benchmark::State& state) {
    std::vector<mask::StrokePoint> points;
    for (int i = 0; i < state.range(0); ++i)
        points.push_back({{3000 + 2500 * std::sin(i * 0.0037), 2000 + 1700 * std::cos(i * 0.0051)}, 1});
    paint(state, paintingOverStrokes({}, mask::Stroke::through(brushOf(150), points)));
}

// A dab of a stroke that brings something, over so many strokes like it: the first of the kinds of core/mask/brings.h
// is a colour.
void dabThatBrings(benchmark::State& state) {
    mask::BrushSettings brush = brushOf(60);
    brush.brings.kind = static_cast<mask::BringKind>(state.range(0));
    brush.brings.colour = {0.7, 0.5, 0.3};
    if (brush.brings.kind == mask::BringKind::clone) brush.brings.offset = base::Point{-400, 130};
    std::vector<mask::StrokePtr> strokes;
    for (int i = 0; i < state.range(1); ++i) {
        const mask::StrokePoint ends[] = {{{900.0 + 53 * (i % 60), 800.0 + 71 * (i % 31)}, 1},
                                          {{960.0 + 53 * (i % 60), 830.0 + 71 * (i % 31)}, 1}};
        strokes.push_back(mask::Stroke::through(brush, ends)->finished());
    }
    const auto stroke = std::make_shared<const mask::Stroke>(brush, mask::StrokePoint{{2700, 2000}, 1});
    Painting painting = paintingOverStrokes(std::move(strokes), stroke);
    painting.document = document::withCorrection(*painting.document, painting.correction, [&](document::Correction& c) {
        c.adjustments = {
            {painting.document->ids->next(), &adjust::paint, true, adjust::startingSettings(adjust::paint)}};
    });
    painting.show();
    Rounds round(state);
    double angle = 0;
    for (auto _ : state) {
        angle += 0.02;
        const base::Point next{2700 + 120 * angle, 2000 + 40 * std::sin(angle)};
        round([&] {
            painting.stroke = painting.stroke->extended({next, 1});
            painting.show();
        });
    }
}

// With the largest brush, 4000 px wide; a dab falls on every 13th point.
void largestDab(benchmark::State& state) {
    Painting painting = paintingOverStrokes({}, strokeAt({2700, 2000}, 2000));
    painting.show();
    Rounds round(state);
    double x = 2700;
    for (auto _ : state) {
        x += 15;
        round([&] {
            painting.stroke = painting.stroke->extended({{x, 2000}, 1});
            painting.show();
        });
    }
}

// The first picture at fit of a document with so many strokes, nothing known before.
void firstFrameOfStrokes(benchmark::State& state) {
    const document::DocumentPtr document =
        withMask(std::make_shared<mask::Brush>(manyStrokes(static_cast<int>(state.range(0)), photo24)));
    sourceOf(photo24);
    Rounds round(state);
    for (auto _ : state) {
        round([&] {
            const render::Renderer renderer(sourceOf(photo24), std::make_shared<render::TileCache>());
            renderView(renderer, viewOf(document, photo24, fitLevel(photo24), document->corrections[0]->id));
        });
    }
}

BENCHMARK(brushDab)->ArgName("fit")->Arg(1)->Arg(0)->UseManualTime()->Iterations(120)->Unit(benchmark::kMillisecond);
BENCHMARK(brushDabOn100Megapixels)
    ->ArgName("fit")
    ->Arg(1)
    ->Arg(0)
    ->UseManualTime()
    ->Iterations(120)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(dabOverStrokes)
    ->ArgName("strokes")
    ->RangeMultiplier(10)
    ->Range(1, 1000)
    ->UseManualTime()
    ->Iterations(100)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(dabThatBrings)
    ->ArgNames({"kind", "strokes"})
    ->ArgsProduct({{1, 2, 3, 4}, {0, 200}})
    ->UseManualTime()
    ->Iterations(60)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(dabOnALongStroke)
    ->ArgName("points")
    ->Arg(20)
    ->Arg(2000)
    ->Arg(20000)
    ->UseManualTime()
    ->Iterations(100)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(largestDab)->UseManualTime()->Iterations(60)->Unit(benchmark::kMillisecond);
BENCHMARK(firstFrameOfStrokes)
    ->ArgName("strokes")
    ->Arg(1)
    ->Arg(1000)
    ->UseManualTime()
    ->Iterations(5)
    ->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace dimhem::bench
