// What a person waits for, on a photo of 24 megapixels: opening, a brush dab, a slider, an export.
//
//   engine_bench --benchmark_out=FILE --benchmark_out_format=json
//
// Every figure comes with its ratio to copying 24 megapixels of RGBA float on all cores, measured in the same run
// ("x_copy"). Interactive figures also give their 95th percentile ("p95_ms").
#include <benchmark/benchmark.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <cstring>
#include <fstream>
#include <random>
#include <string>

#include "core/adjust/hue_bands.h"
#include "core/adjust/light.h"
#include "core/adjust/match_area.h"
#include "core/adjust/registry.h"
#include "core/adjust/saturation.h"
#include "core/adjust/tint.h"
#include "core/adjust/tone_curve.h"
#include "core/adjust/white_balance.h"
#include "core/base/heap.h"
#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/io/jpeg.h"
#include "core/io/registry.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "core/render/frame.h"
#include "core/task/export.h"
#include "tests/support/opened.h"

namespace {

using namespace dimhem;
using Clock = std::chrono::steady_clock;

constexpr base::Size photoSize{6000, 4000};
constexpr base::Size viewSize{1280, 800};

double secondsOf(const std::function<void()>& work) {
    const auto begin = Clock::now();
    work();
    return std::chrono::duration<double>(Clock::now() - begin).count();
}

// Seconds to copy 24 megapixels of RGBA float on all cores: the least of several.
double copySeconds() {
    static const double seconds = [] {
        const std::size_t bytes = std::size_t{16} * 6000 * 4000, parts = 96;
        std::vector<char> from(bytes, 1), to(bytes, 2);
        double best = 1e9;
        for (int i = 0; i < 9; ++i) {
            best = std::min(best, secondsOf([&] {
                                base::parallelFor(parts, {}, {}, [&](std::size_t p) {
                                    std::memcpy(to.data() + p * (bytes / parts), from.data() + p * (bytes / parts),
                                                bytes / parts);
                                });
                            }));
        }
        return best;
    }();
    return seconds;
}

// A made landscape with texture and noise, as a JPEG file in memory.
const std::vector<std::uint8_t>& photoFile() {
    static const std::vector<std::uint8_t> bytes = [] {
        io::Picture picture;
        picture.size = photoSize;
        std::mt19937 random(24);
        picture.rows = [&](int y0, int y1, std::byte* rows) -> base::Result<void> {
            for (int y = y0; y < y1; ++y) {
                for (int x = 0; x < photoSize.width; ++x) {
                    const double v = 110 + 60 * std::sin(x * 0.002 + std::cos(y * 0.003)) +
                                     25 * std::sin(x * 0.11) * std::sin(y * 0.07);
                    const double noise = static_cast<double>(random() % 17) - 8;
                    for (int c = 0; c < 3; ++c)
                        *rows++ = static_cast<std::byte>(std::clamp(v + noise + 18 * c - 0.008 * y * c, 0.0, 255.0));
                }
            }
            return {};
        };
        const std::string path = "/tmp/dimhem-bench-" + std::to_string(::getpid()) + ".jpg";
        auto file = io::PendingFile::create(path, {});
        (void)io::jpeg.write(*file, picture);
        (void)file->commit();
        auto read = *io::readFile(path);
        std::filesystem::remove(path);
        return read;
    }();
    return bytes;
}

const std::shared_ptr<const render::PhotoSource>& photoSource() {
    static const auto source =
        *render::PhotoSource::make(std::make_shared<const image::Photo>(*io::readPhoto(photoFile(), "bench")));
    return source;
}

using Chain = std::array<std::pair<const adjust::AdjustmentKind*, adjust::Settings>, 8>;

adjust::Settings settingsOf(const adjust::AdjustmentKind& kind, std::initializer_list<std::pair<int, double>> values) {
    adjust::Settings settings = adjust::neutralSettings(kind);
    for (const auto& [index, value] : values) settings.values[static_cast<std::size_t>(index)] = value;
    return settings;
}

// Light (exposure and contrast) and white balance by turns.
Chain lightAndWhiteBalance() {
    Chain chain;
    for (int i = 0; i < 8; ++i) {
        const auto& kind = i % 2 ? adjust::whiteBalance : adjust::light;
        chain[static_cast<std::size_t>(i)] = {&kind,
                                              settingsOf(kind, {{0, i % 2 ? 6500 + 150 * i : 0.1 + 0.02 * i}, {1, 4}})};
    }
    return chain;
}

// Exposure, white balance, a curve, a hue band, levels, saturation, a luminance curve, a tint.
Chain mixedChain() {
    adjust::Settings curve = adjust::neutralSettings(adjust::toneCurve), luminance = curve;
    curve.tables[1] = {0, 0, 25, 20, 70, 80, 100, 100};
    luminance.tables[0] = {0, 0, 30, 34, 75, 78, 100, 100};
    adjust::Settings band = adjust::neutralSettings(adjust::hueBands);
    band.tables[0] = {80, 100, 140, 160, 6, 12, 0};
    return {{{&adjust::light, settingsOf(adjust::light, {{0, 0.3}})},
             {&adjust::whiteBalance, settingsOf(adjust::whiteBalance, {{0, 7200}, {1, 4}})},
             {&adjust::toneCurve, curve},
             {&adjust::hueBands, band},
             {&adjust::light, settingsOf(adjust::light, {{4, 3}, {5, 96}, {6, 8}})},
             {&adjust::saturation, settingsOf(adjust::saturation, {{0, 15}})},
             {&adjust::toneCurve, luminance},
             {&adjust::tint, settingsOf(adjust::tint, {{0, 8}})}}};
}

// Eight corrections, each covering the given part of the picture with a soft border.
document::DocumentPtr eightCorrections(double part, const Chain& chain = lightAndWhiteBalance()) {
    document::DocumentPtr document = std::make_shared<document::Document>();
    for (const auto& [kind, settings] : chain) {
        const auto added = document::withNewCorrection(*document, 99);
        mask::Mask mask;
        const double x = part * photoSize.width;
        mask.startsEverywhere = part >= 1;
        if (part < 1) {
            mask.parts.push_back(std::make_shared<const mask::Part>(
                mask::Part{0, "part", mask::Combine::add, false, true, 100,
                           std::make_shared<mask::LinearGradient>(base::Point{x - 60, 0}, base::Point{x + 60, 0})}));
        }
        document = document::withCorrection(*added.document, added.id, [&](document::Correction& c) { c.mask = mask; });
        const auto use = document::withNewAdjustment(*document, added.id, *kind);
        document = document::withAdjustment(*use.document, added.id, use.id,
                                            [&](document::AdjustmentUse& u) { u.settings = settings; });
    }
    return document;
}

// The view of a window: level and visible rectangle, at fit or at 1:1 about the middle.
render::FrameRequest viewOf(const document::DocumentPtr& document, bool fit, document::Id selected) {
    render::FrameRequest request;
    request.document = document;
    request.view.selected = selected;
    request.level = fit ? 2 : 0;
    const base::Size level = image::levelSize(photoSize, request.level);
    request.rect = fit ? base::rectOf(level)
                       : base::Rect{level.width / 2 - viewSize.width / 2, level.height / 2 - viewSize.height / 2,
                                    level.width / 2 + viewSize.width / 2, level.height / 2 + viewSize.height / 2};
    return request;
}

void renderView(const render::Renderer& renderer, const render::FrameRequest& request) {
    render::renderFrame(renderer, request, {}, {},
                        [](const base::Rect&, const auto& tile) { benchmark::DoNotOptimize(tile->row(0).data()); });
}

// Keeps the time of each round, for the percentile.
class Rounds {
public:
    explicit Rounds(benchmark::State& state) : state_(state) {}
    ~Rounds() {
        std::sort(seconds_.begin(), seconds_.end());
        state_.counters["p95_ms"] =
            1e3 * seconds_[static_cast<std::size_t>(0.95 * static_cast<double>(seconds_.size() - 1))];
        state_.counters["median_ms"] = 1e3 * seconds_[seconds_.size() / 2];
        state_.counters["x_copy"] = seconds_[seconds_.size() / 2] / copySeconds();
    }
    void operator()(const std::function<void()>& work) {
        seconds_.push_back(secondsOf(work));
        state_.SetIterationTime(seconds_.back());
    }

private:
    benchmark::State& state_;
    std::vector<double> seconds_;
};

void copy24Megapixels(benchmark::State& state) {
    for (auto _ : state) state.SetIterationTime(copySeconds());
    state.counters["x_copy"] = 1;
}

void openFirstPixels(benchmark::State& state) {
    Rounds round(state);
    for (auto _ : state)
        round([] { benchmark::DoNotOptimize(io::readSmallPhoto(photoFile(), "bench", 700)->samples.row(0)); });
}

void openAllPixels(benchmark::State& state) {
    Rounds round(state);
    for (auto _ : state) round([] { benchmark::DoNotOptimize(io::readPhoto(photoFile(), "bench")->samples.row(0)); });
}

void openLevels(benchmark::State& state) {
    Rounds round(state);
    const auto photo = std::make_shared<const image::Photo>(*io::readPhoto(photoFile(), "bench"));
    for (auto _ : state) round([&] { benchmark::DoNotOptimize((*render::PhotoSource::make(photo))->levels()); });
}

// One more point of a stroke with a brush of 150 px radius, on top of eight corrections, until its pixels are there.
void brushDab(benchmark::State& state) {
    const bool fit = state.range(0) == 1;
    const auto added =
        document::withNewPart(*eightCorrections(0.3), 1, std::make_shared<mask::Brush>(), mask::Combine::add);
    const document::Id correction = added.document->corrections.back()->id;
    const auto part =
        document::withNewPart(*added.document, correction, std::make_shared<mask::Brush>(), mask::Combine::add);
    mask::BrushSettings brush;
    brush.sizePx = 300;
    mask::StrokePtr stroke = std::make_shared<const mask::Stroke>(brush, mask::StrokePoint{{2700, 2000}, 1});
    const auto shown = [&] {
        return document::withPart(*part.document, correction, part.id, [&](mask::Part& p) {
            p.shape = std::make_shared<mask::Brush>(std::vector<mask::StrokePtr>{stroke});
        });
    };
    const render::Renderer renderer(photoSource(), std::make_shared<render::TileCache>());
    renderView(renderer, viewOf(shown(), fit, correction));
    Rounds round(state);
    double angle = 0;
    for (auto _ : state) {
        angle += 0.05;
        round([&] {
            stroke = stroke->extended({{3000 + 300 * std::sin(angle), 2000 + 250 * std::cos(1.3 * angle)}, 1});
            renderView(renderer, viewOf(shown(), fit, correction));
        });
    }
}

// A scribble of short strokes all over the photo.
std::vector<mask::StrokePtr> manyStrokes(int count) {
    std::mt19937 random(7);
    std::vector<mask::StrokePtr> strokes;
    mask::BrushSettings brush;
    brush.sizePx = 300;
    brush.strengthPct = 4;
    for (int i = 0; i < count; ++i) {
        const double x = random() % 6000, y = random() % 4000;
        const mask::StrokePoint points[] = {{{x, y}, 1}, {{x + 400, y + 150}, 1}, {{x + 300, y + 500}, 1}};
        strokes.push_back(mask::Stroke::through(brush, points));
    }
    return strokes;
}

document::DocumentPtr paintedDocument(std::vector<mask::StrokePtr> strokes) {
    const auto added = document::withNewCorrection(*std::make_shared<document::Document>(), 0);
    const auto part = document::withNewPart(*added.document, added.id,
                                            std::make_shared<mask::Brush>(std::move(strokes)), mask::Combine::add);
    const auto use = document::withNewAdjustment(*part.document, added.id, adjust::light);
    return document::withAdjustment(*use.document, added.id, use.id,
                                    [](document::AdjustmentUse& u) { u.settings.values[0] = 0.5; });
}

// One more point of a stroke where so many strokes lie already, at fit: what came before is not worked out again.
void dabOverStrokes(benchmark::State& state) {
    std::vector<mask::StrokePtr> strokes = manyStrokes(static_cast<int>(state.range(0)));
    mask::BrushSettings brush;
    brush.sizePx = 300;
    mask::StrokePtr stroke = std::make_shared<const mask::Stroke>(brush, mask::StrokePoint{{2700, 2000}, 1});
    strokes.push_back(stroke);
    document::DocumentPtr document = paintedDocument(strokes);
    const document::Id correction = document->corrections[0]->id;
    const mask::PartId part = document->corrections[0]->mask.parts[0]->id;
    const render::Renderer renderer(photoSource(), std::make_shared<render::TileCache>());
    renderView(renderer, viewOf(document, true, correction));
    Rounds round(state);
    double angle = 0;
    for (auto _ : state) {
        angle += 0.05;
        round([&] {
            stroke = stroke->extended({{3000 + 300 * std::sin(angle), 2000 + 250 * std::cos(1.3 * angle)}, 1});
            document = document::withPart(*document, correction, part, [&](mask::Part& p) {
                p.shape = std::static_pointer_cast<const mask::Brush>(p.shape)->withLast(stroke);
            });
            renderView(renderer, viewOf(document, true, correction));
        });
    }
}

// The first picture at fit of a document with so many strokes, nothing known before.
void firstFrameOfStrokes(benchmark::State& state) {
    const document::DocumentPtr document = paintedDocument(manyStrokes(static_cast<int>(state.range(0))));
    photoSource();
    Rounds round(state);
    for (auto _ : state) {
        round([&] {
            const render::Renderer renderer(photoSource(), std::make_shared<render::TileCache>());
            renderView(renderer, viewOf(document, true, document->corrections[0]->id));
        });
    }
}

// A dab of the largest brush, 4000 px wide, at fit.
void largestDab(benchmark::State& state) {
    mask::BrushSettings brush;
    brush.sizePx = 4000;
    mask::StrokePtr stroke = std::make_shared<const mask::Stroke>(brush, mask::StrokePoint{{2700, 2000}, 1});
    document::DocumentPtr document = paintedDocument({stroke});
    const document::Id correction = document->corrections[0]->id;
    const mask::PartId part = document->corrections[0]->mask.parts[0]->id;
    const render::Renderer renderer(photoSource(), std::make_shared<render::TileCache>());
    renderView(renderer, viewOf(document, true, correction));
    Rounds round(state);
    double x = 2700;
    for (auto _ : state) {
        x += 15;
        round([&] {
            stroke = stroke->extended({{x, 2000}, 1});
            document = document::withPart(*document, correction, part, [&](mask::Part& p) {
                p.shape = std::static_pointer_cast<const mask::Brush>(p.shape)->withLast(stroke);
            });
            renderView(renderer, viewOf(document, true, correction));
        });
    }
}

// A step of the exposure of the bottom or top one of eight corrections that cover everything, at fit.
void sliderMove(benchmark::State& state) {
    document::DocumentPtr document = eightCorrections(1);
    const document::Correction moved = *document->corrections[state.range(0) == 1 ? 6 : 0];
    const render::Renderer renderer(photoSource(), std::make_shared<render::TileCache>());
    renderView(renderer, viewOf(document, true, moved.id));
    Rounds round(state);
    double exposure = 0;
    for (auto _ : state) {
        exposure += 0.01;
        document = document::withAdjustment(*document, moved.id, moved.adjustments[0].id,
                                            [&](document::AdjustmentUse& u) { u.settings.values[0] = exposure; });
        round([&] { renderView(renderer, viewOf(document, true, moved.id)); });
    }
}

void exportJpeg(benchmark::State& state) {
    const document::DocumentPtr document = eightCorrections(static_cast<double>(state.range(0)) / 100);
    const std::string path = "/tmp/dimhem-bench-out-" + std::to_string(::getpid()) + ".jpg";
    photoSource();
    Rounds round(state);
    for (auto _ : state) round([&] { (void)task::exportPicture(tests::openedOf(photoSource()), document, path, {}); });
    std::filesystem::remove(path);
}

// The eight corrections over every tile at full precision, without reading or writing files.
void renderAll(benchmark::State& state, const Chain& chain) {
    const document::DocumentPtr document = eightCorrections(static_cast<double>(state.range(0)) / 100, chain);
    const render::Sequence sequence(document, {});
    const image::TileGrid grid(photoSize, image::defaultTilePx);
    Rounds round(state);
    for (auto _ : state) {
        const render::Renderer renderer(photoSource(), std::make_shared<render::TileCache>(std::size_t{64} << 20));
        round([&] {
            base::parallelFor(grid.count(), {}, {}, [&](std::size_t i) {
                const base::Rect tile =
                    grid.tile(static_cast<int>(i) % grid.columns(), static_cast<int>(i) / grid.columns());
                image::RgbPlanes out(tile.size());
                renderer.picture(sequence, {tile, 0}, out);
                benchmark::DoNotOptimize(out.red.row(0).data());
            });
        });
    }
}

double peakMegabytes() {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);) {
        if (line.starts_with("VmHWM:")) return std::stod(line.substr(6)) / 1024;
    }
    return 0;
}

// Opening, eight corrections at the given part, a view at fit and at 1:1, an export: what it takes at its highest.
void peakMemory(benchmark::State& state) {
    const document::DocumentPtr document = eightCorrections(static_cast<double>(state.range(0)) / 100);
    const std::string path = "/tmp/dimhem-bench-peak-" + std::to_string(::getpid()) + ".jpg";
    for (auto _ : state) {
        std::ofstream("/proc/self/clear_refs") << "5";  // the high-water mark starts again
        const render::Renderer renderer(photoSource(), std::make_shared<render::TileCache>());
        const auto begin = Clock::now();
        renderView(renderer, viewOf(document, true, document->corrections.back()->id));
        renderView(renderer, viewOf(document, false, document->corrections.back()->id));
        (void)task::exportPicture(tests::openedOf(photoSource()), document, path, {});
        state.SetIterationTime(std::chrono::duration<double>(Clock::now() - begin).count());
    }
    state.counters["peak_MB"] = peakMegabytes();
    std::filesystem::remove(path);
}

// Every number a fifth of the way up; tables with typical rows: curves of four points, two bands of hues.
adjust::Settings movedSettings(const adjust::AdjustmentKind& kind) {
    adjust::Settings settings = adjust::neutralSettings(kind);
    for (std::size_t i = 0; i < settings.values.size(); ++i) {
        if (!kind.params[i].toggle) settings.values[i] += 0.2 * (kind.params[i].max - settings.values[i]);
    }
    if (&kind == &adjust::toneCurve) settings.tables[0] = {0, 0, 25, 20, 70, 80, 100, 100};
    if (&kind == &adjust::hueBands) settings.tables[0] = {-40, -20, 20, 40, 8, 0, 0, 30, 45, 70, 90, 0, -35, 15};
    if (&kind == &adjust::matchArea)
        settings = adjust::withMeasured(settings, {0, 0, 9, 9}, {{50, 3, 4}, {9, 4, 5}}, {{60, 1, 9}, {7, 3, 6}});
    return settings;
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
            base::parallelFor(bands, {}, {}, [&](std::size_t band) {
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

void partsOfThePhoto(benchmark::internal::Benchmark* bench) {
    bench->ArgName("percent")->Arg(5)->Arg(30)->Arg(100)->UseManualTime()->Iterations(5)->Unit(benchmark::kMillisecond);
}

// Memory first: later figures keep pages of their own.
BENCHMARK(peakMemory)
    ->ArgName("percent")
    ->Arg(30)
    ->Arg(100)
    ->UseManualTime()
    ->Iterations(1)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(copy24Megapixels)->UseManualTime()->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(openFirstPixels)->UseManualTime()->Iterations(8)->Unit(benchmark::kMillisecond);
BENCHMARK(openAllPixels)->UseManualTime()->Iterations(8)->Unit(benchmark::kMillisecond);
BENCHMARK(openLevels)->UseManualTime()->Iterations(5)->Unit(benchmark::kMillisecond);
BENCHMARK(brushDab)->ArgName("fit")->Arg(1)->Arg(0)->UseManualTime()->Iterations(120)->Unit(benchmark::kMillisecond);
BENCHMARK(dabOverStrokes)
    ->ArgName("strokes")
    ->Arg(1)
    ->Arg(10)
    ->Arg(100)
    ->Arg(1000)
    ->UseManualTime()
    ->Iterations(100)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(firstFrameOfStrokes)
    ->ArgName("strokes")
    ->Arg(1)
    ->Arg(1000)
    ->UseManualTime()
    ->Iterations(5)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(largestDab)->UseManualTime()->Iterations(60)->Unit(benchmark::kMillisecond);
BENCHMARK(sliderMove)->ArgName("top")->Arg(0)->Arg(1)->UseManualTime()->Iterations(40)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(renderAll, light_and_white_balance, lightAndWhiteBalance())->Apply(partsOfThePhoto);
BENCHMARK_CAPTURE(renderAll, mixed, mixedChain())->Apply(partsOfThePhoto);
BENCHMARK(adjustmentRows)
    ->ArgName("kind")
    ->DenseRange(0, static_cast<int>(adjust::adjustmentKinds().size()) - 1)
    ->UseManualTime()
    ->Iterations(5)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(exportJpeg)
    ->ArgName("percent")
    ->Arg(5)
    ->Arg(30)
    ->Arg(100)
    ->UseManualTime()
    ->Iterations(4)
    ->Unit(benchmark::kMillisecond);

}  // namespace

int main(int argc, char** argv) {
    base::keepBlocksInHeap();  // as the program does
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    benchmark::Shutdown();
}
