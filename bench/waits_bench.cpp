// What may make somebody wait, each as a pair: the plain case (0) and the one that was slow (1). Their ratio counts,
// not the milliseconds.
#include <benchmark/benchmark.h>

#include "core/image/tiles.h"
#include "core/io/png.h"
#include "core/task/export.h"
#include "core/task/masked_colours.h"
#include "core/task/notes.h"
#include "core/task/probe_reading.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/profiles.h"

namespace {

using namespace dimhem;

const base::Size largeSize{6000, 4000}, smallSize{1500, 1000};

std::shared_ptr<const image::Photo> photoOf(base::Size size, bool displayProfile = false, int channels = 3) {
    image::Photo photo = tests::madePhoto(size, channels);
    if (displayProfile) photo.profile = tests::wideProfile();
    return std::make_shared<const image::Photo>(std::move(photo));
}

std::shared_ptr<const render::PhotoSource> sourceOf(base::Size size, int channels = 3) {
    return *render::PhotoSource::make(photoOf(size, false, channels));
}

void renderWhole(const std::shared_ptr<const render::PhotoSource>& photo, const document::DocumentPtr& document,
                 bool overBackdrop = false) {
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>(std::size_t{96} << 20));
    const render::Sequence sequence(document, {});
    constexpr int tile = 256;
    const int columns = (photo->size().width + tile - 1) / tile, rows = (photo->size().height + tile - 1) / tile;
    base::parallelForAll(static_cast<std::size_t>(columns * rows), {}, {}, [&](std::size_t i) {
        const int x = static_cast<int>(i) % columns * tile, y = static_cast<int>(i) / columns * tile;
        const base::Rect rect = base::intersected({x, y, x + tile, y + tile}, base::rectOf(photo->size()));
        image::EncodedPlanes out(rect.size());
        renderer.picture(sequence, {rect, 0}, out);
        if (overBackdrop) renderer.layOverBackdrop(sequence, {rect, 0}, out, false);
    });
}

document::DocumentPtr withMask(const std::string& part, const std::string& refine = "{}") {
    return tests::documentOf(R"([{"mask": {"parts": [)" + part + R"(], "refine": )" + refine +
                             R"(}, "adjustments": [{"kind": "light", "exposure": 0.5}]}])");
}

std::string outlineOf(int points, double radius) {
    std::string list;
    for (int i = 0; i < points; ++i) {
        const double angle = 2 * 3.14159265 * i / points, r = radius * (1 + 0.02 * (i % 2));
        list += (i ? ",[" : "[") + std::to_string(3000 + r * std::cos(angle)) + "," +
                std::to_string(2000 + r * std::sin(angle)) + "]";
    }
    return R"({"kind": "outline", "points": [)" + list + "]}";
}

const std::string painted =
    R"({"kind": "brush", "strokes": [{"size": 900, "softness": 20, "points": [[1500, 1500], [4500, 2500]]}]})";

void outline(benchmark::State& state) {
    const auto photo = sourceOf(largeSize);
    const auto document = withMask(outlineOf(state.range(0) ? 4000 : 40, 1500));
    for (auto _ : state) renderWhole(photo, document);
}

void expand(benchmark::State& state) {
    const auto photo = sourceOf(largeSize);
    const auto document = withMask(painted, state.range(0) ? R"({"expand": 50, "smooth": 50})" : R"({"expand": 50})");
    for (auto _ : state) renderWhole(photo, document);
}

void expandFar(benchmark::State& state) {
    const auto photo = sourceOf(largeSize);
    const auto document = withMask(painted, state.range(0) ? R"({"expand": 200, "smooth": 50})" : R"({"expand": 200})");
    for (auto _ : state) renderWhole(photo, document);
}

document::DocumentPtr heldOrNot(bool held) {
    return withMask(
        std::string(R"({"kind": "brush", "strokes": [{"size": 120, "points": [[2000, 1500], [2600, 1600]])") +
        R"(, "holds": )" + (held ? "true" : "false") + "}]}");
}

void thumbnail(benchmark::State& state) {
    const auto photo = sourceOf(largeSize);
    const auto document = heldOrNot(state.range(0) != 0);
    for (auto _ : state) {
        const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
        benchmark::DoNotOptimize(task::thumbnailPng(renderer, document, 320));
    }
}

// As when the window saves: the view has shown the stroke already.
void thumbnailOfWhatIsShown(benchmark::State& state) {
    const auto photo = sourceOf(largeSize);
    const auto document = heldOrNot(state.range(0) != 0);
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
    constexpr int fit = 2;
    image::EncodedPlanes view(image::levelSize(largeSize, fit));
    renderer.picture(render::Sequence(document, {}), {base::rectOf(view.size()), fit}, view);
    for (auto _ : state) benchmark::DoNotOptimize(task::thumbnailPng(renderer, document, 320));
}

void openingWithProfile(benchmark::State& state) {
    const auto photo = photoOf(largeSize, state.range(0) != 0);
    for (auto _ : state) benchmark::DoNotOptimize(render::PhotoSource::make(photo));
}

void readingWithProfile(benchmark::State& state) {
    const auto source = *render::PhotoSource::make(photoOf(largeSize, state.range(0) != 0));
    for (auto _ : state) renderWhole(source, tests::documentOf("[]"));
}

void backdrop(benchmark::State& state) {
    const auto photo = sourceOf(smallSize, 4);
    document::Document document = *tests::documentOf("[]");
    document::BackdropPicture picture;
    picture.photo = photoOf(state.range(0) ? base::Size{12000, 8000} : base::Size{3000, 2000});
    picture.key = base::KeyBuilder().add(static_cast<int>(state.range(0))).key();
    document.backdrop = picture;
    const auto shared = std::make_shared<const document::Document>(document);
    for (auto _ : state) renderWhole(photo, shared, true);
}

// 4 and 16 corrections that look at what arrives: four times the work is right.
void lookingAtWhatArrives(benchmark::State& state) {
    const auto photo = sourceOf({600, 400});
    std::string list;
    for (int i = 0; i < (state.range(0) ? 16 : 4); ++i) {
        list +=
            std::string(i ? "," : "") +
            R"({"mask": {"parts": [{"kind": "luminosity-range", "tones": [10, 30, 60, 90], "measured": "arriving", "smooth": )" +
            std::to_string(1 + 0.7 * i) + R"(}]}, "adjustments": [{"kind": "light", "exposure": 0.1}]})";
    }
    const auto document = tests::documentOf("[" + list + "]");
    for (auto _ : state) renderWhole(photo, document);
}

// Figures that follow a step, of four corrections on 24 megapixels: beside the one that was there before them all.
document::DocumentPtr fourCorrections() {
    std::string list;
    for (int i = 0; i < 4; ++i)
        list +=
            std::string(i ? "," : "") + R"({"id": )" + std::to_string(i + 1) + R"(, "mask": {"parts": [)" + painted +
            R"(]}, "adjustments": [{"kind": "light", "exposure": 0.2}, {"kind": "white-balance", "temperature": 7000}]})";
    return tests::documentOf("[" + list + "]");
}

void coloursThenNotes(benchmark::State& state) {
    const render::Renderer renderer(sourceOf(largeSize), std::make_shared<render::TileCache>());
    const auto document = fourCorrections();
    for (auto _ : state) {
        if (state.range(0)) {
            benchmark::DoNotOptimize(task::notesOf(renderer, document, 4));
        } else {
            benchmark::DoNotOptimize(task::maskedColours(renderer, document, 4));
        }
    }
}

void coloursThenProbes(benchmark::State& state) {
    const render::Renderer renderer(sourceOf(largeSize), std::make_shared<render::TileCache>());
    const auto document = fourCorrections();
    document::Probe probe;
    probe.sizePx = 51;
    for (auto _ : state) {
        if (!state.range(0)) benchmark::DoNotOptimize(task::maskedColours(renderer, document, 4));
        for (int i = 0; i < 8 && state.range(0); ++i) {
            probe.place = {400.0 + 700 * i, 2000};
            benchmark::DoNotOptimize(task::readProbe(renderer, document, probe));
        }
    }
}

#define PAIR(name) \
    BENCHMARK(name)->ArgName("slow")->Arg(0)->Arg(1)->Iterations(2)->UseRealTime()->Unit(benchmark::kMillisecond)
PAIR(outline);
PAIR(expand);
PAIR(expandFar);
PAIR(thumbnail);
PAIR(thumbnailOfWhatIsShown);
PAIR(openingWithProfile);
PAIR(readingWithProfile);
PAIR(backdrop);
PAIR(lookingAtWhatArrives);
PAIR(coloursThenNotes);
PAIR(coloursThenProbes);
#undef PAIR

}  // namespace

BENCHMARK_MAIN();
