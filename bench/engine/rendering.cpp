// Corrections over every tile at full precision, without reading or writing files.
#include <cmath>

#include "bench/engine/documents.h"
#include "bench/engine/measure.h"
#include "bench/engine/photos.h"
#include "core/adjust/registry.h"
#include "core/image/tiles.h"
#include "core/mask/brush.h"
#include "core/mask/colour_range.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/outline.h"
#include "core/mask/region.h"

namespace dimhem::bench {
namespace {

void renderWhole(benchmark::State& state, const std::shared_ptr<const render::PhotoSource>& photo,
                 const document::DocumentPtr& document, std::size_t cacheMegabytes = 96) {
    const render::Sequence sequence(document, {});
    const image::TileGrid grid(photo->size(), image::defaultTilePx);
    Rounds round(state);
    for (auto _ : state) {
        const render::Renderer renderer(photo, std::make_shared<render::TileCache>(cacheMegabytes << 20));
        round([&] {
            base::parallelForAll(grid.count(), {}, {}, [&](std::size_t i) {
                const base::Rect tile =
                    grid.tile(static_cast<int>(i) % grid.columns(), static_cast<int>(i) / grid.columns());
                const auto picture = renderer.changedPicture(sequence, {tile, 0});
                if (picture) benchmark::DoNotOptimize(picture->red.row(0).data());
            });
        });
    }
}

// The eight of a chain under masks of a part of the photo.
void renderAll(benchmark::State& state, const Chain& chain) {
    renderWhole(state, sourceOf(photo24), correctionsOver(static_cast<double>(state.range(0)) / 100, chain, photo24));
}

// The mixed chain at 100 % on a photo of a kind.
void renderKind(benchmark::State& state, PhotoKind kind) {
    renderWhole(state, sourceOf(photo24, kind), correctionsOver(1, mixedChain(), photo24));
}

void renderCount(benchmark::State& state) {
    renderWhole(state, sourceOf(photo24),
                correctionsOver(0.3, mixedChain(), photo24, static_cast<int>(state.range(0))));
}

// Megapixels, of 3 : 2.
void renderSize(benchmark::State& state) {
    const int height = static_cast<int>(std::lround(std::sqrt(static_cast<double>(state.range(0)) * 1e6 / 1.5)));
    const base::Size size{height * 3 / 2, height};
    renderWhole(state, *render::PhotoSource::make(std::make_shared<const image::Photo>(madePhoto(size))),
                correctionsOver(0.3, mixedChain(), size));
}

// An outline of 4000 points round half of the photo.
mask::ShapePtr outline() {
    std::vector<base::Point> points;
    for (int i = 0; i < 4000; ++i) {
        const double angle = 2 * 3.14159265358979 * i / 4000, r = 1600 * (1 + 0.02 * (i % 2));
        points.push_back({3000 + r * std::cos(angle), 2000 + r * std::sin(angle)});
    }
    return std::make_shared<mask::Outline>(std::move(points), 4.0);
}

mask::ShapePtr longStroke() {
    std::vector<mask::StrokePoint> points;
    for (int i = 0; i < 20000; ++i)
        points.push_back({{3000 + 2500 * std::sin(i * 0.0037), 2000 + 1700 * std::cos(i * 0.0051)}, 1});
    return std::make_shared<mask::Brush>(
        std::vector<mask::StrokePtr>{mask::Stroke::through(brushOf(60), points)->finished()});
}

mask::ShapePtr region() {
    const mask::RegionDrag drag{{{1500, 1500}, {2500, 1800}, {2200, 2500}}, false};
    return std::make_shared<mask::Region>(std::vector<mask::RegionDrag>{drag}, 50);
}

mask::ShapePtr tones(mask::Seen seen) {
    mask::LuminosityRangeValues values;
    values.seen = seen;
    return std::make_shared<mask::LuminosityRange>(values);
}

mask::ShapePtr colours() {
    mask::ColourRangeValues values;
    values.picks = {{{1000, 1000}, {50, 5, 12}}, {{3000, 1000}, {60, 2, 8}}, {{2000, 2500}, {40, 4, 10}}};
    return std::make_shared<mask::ColourRange>(values);
}

void renderMask(benchmark::State& state, mask::ShapePtr (*shape)()) {
    renderWhole(state, sourceOf(photo24), withMask(shape()));
}

// So many corrections, each of which looks at the tones that arrive at it.
void rangesOnWhatArrives(benchmark::State& state) {
    document::DocumentPtr document = withMask(tones(mask::Seen::arriving));
    for (int i = 1; i < state.range(0); ++i)
        document = document::withCopyOfCorrection(*document, document->corrections[0]->id).document;
    // As an export sizes it: three rows of tiles for each.
    renderWhole(state, sourceOf(photo24), document, 96 + 180 * static_cast<std::size_t>(state.range(0)));
}

// One kind of adjustment over 24 megapixels in rows of a tile's width, on all cores.
void adjustmentRows(benchmark::State& state) {
    const adjust::AdjustmentKind& kind = *adjust::adjustmentKinds()[static_cast<std::size_t>(state.range(0))];
    state.SetLabel(std::string(kind.id));
    const auto operation = kind.prepare(movedSettings(kind));
    constexpr std::size_t width = image::defaultTilePx, rows = std::size_t{6000} * 4000 / width, bands = 64;
    Rounds round(state);
    for (auto _ : state) {
        round([&] {
            base::parallelForAll(bands, {}, {}, [&](std::size_t band) {
                std::vector<float> r(width), g(width), b(width);
                for (std::size_t row = band; row < rows; row += bands) {
                    for (std::size_t x = 0; x < width; ++x) {
                        r[x] = 0.1f + 0.006f * static_cast<float>(x);
                        g[x] = 0.4f;
                        b[x] = 0.9f - 0.006f * static_cast<float>(x);
                    }
                    adjust::apply(operation, {r.data(), g.data(), b.data()}, width);
                    benchmark::DoNotOptimize(b.data());
                }
            });
        });
    }
}

void few(benchmark::internal::Benchmark* bench) {
    bench->UseManualTime()->Iterations(5)->Unit(benchmark::kMillisecond);
}

BENCHMARK_CAPTURE(renderAll, mixed, mixedChain())
    ->ArgName("percent")
    ->Arg(5)
    ->Arg(15)
    ->Arg(30)
    ->Arg(60)
    ->Arg(100)
    ->Apply(few);
BENCHMARK_CAPTURE(renderAll, light_and_white_balance, lightAndWhiteBalance())
    ->ArgName("percent")
    ->Arg(5)
    ->Arg(30)
    ->Arg(100)
    ->Apply(few);
BENCHMARK_CAPTURE(renderKind, display_p3, PhotoKind::displayP3)->Apply(few);
BENCHMARK_CAPTURE(renderKind, tiff16, PhotoKind::tiff16)->Apply(few);
BENCHMARK_CAPTURE(renderKind, alpha, PhotoKind::alpha)->Apply(few);
BENCHMARK(renderCount)->ArgName("corrections")->RangeMultiplier(2)->Range(1, 32)->Apply(few);
BENCHMARK(renderSize)->ArgName("megapixels")->Arg(6)->Arg(12)->Arg(24)->Arg(50)->Arg(100)->Apply(few);
BENCHMARK_CAPTURE(renderMask, outline_of_4000_points, outline)->Apply(few);
BENCHMARK_CAPTURE(renderMask, stroke_of_20000_points, longStroke)->Apply(few);
BENCHMARK_CAPTURE(renderMask, region, region)->UseManualTime()->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(renderMask, colour_range, colours)->Apply(few);
BENCHMARK(rangesOnWhatArrives)
    ->ArgName("corrections")
    ->Arg(1)
    ->Arg(4)
    ->Arg(12)
    ->UseManualTime()
    ->Iterations(1)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(adjustmentRows)
    ->ArgName("kind")
    ->DenseRange(0, static_cast<int>(adjust::adjustmentKinds().size()) - 1)
    ->Apply(few);

}  // namespace
}  // namespace dimhem::bench
