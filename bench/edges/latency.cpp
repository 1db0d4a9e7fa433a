#include "bench/edges/latency.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstring>
#include <random>
#include <string>

#include "bench/edges/measures.h"
#include "bench/edges/strokes.h"
#include "core/adjust/light.h"
#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/kernel/bilinear.h"
#include "core/mask/held_stroke.h"
#include "core/mask/region.h"
#include "core/mask/wire.h"
#include "core/render/frame.h"
#include "core/task/hem_check.h"

namespace dimhem::edges {

namespace {

constexpr base::Size large{6000, 4000};
constexpr base::Size screen{780, 600};  // of the canvas in a window of 1280 x 800

using Clock = std::chrono::steady_clock;

double msSince(Clock::time_point begin) {
    return std::chrono::duration<double, std::milli>(Clock::now() - begin).count();
}

double copyMs() {
    const std::size_t part = std::size_t{6000} * 4000 * 4 / 2;
    std::vector<float> from(2 * part, 0.5f), to(2 * part, 0.0f);
    double best = 1e9;
    for (int i = 0; i < 5; ++i) {
        const auto begin = Clock::now();
        base::parallelForAll(2, {2, {}}, {}, [&](std::size_t half) {
            std::memcpy(to.data() + half * part, from.data() + half * part, part * sizeof(float));
        });
        best = std::min(best, msSince(begin));
    }
    return best;
}

void report(const char* what, std::vector<double> ms, double copy) {
    std::sort(ms.begin(), ms.end());
    const double middle = ms[ms.size() / 2], late = ms[std::min(ms.size() - 1, ms.size() * 95 / 100)];
    std::printf("%-34s n %3zu  median %8.1f ms  p95 %8.1f ms  x_copy %.3f\n", what, ms.size(), middle, late,
                middle / copy);
    std::fflush(stdout);
}

Scene enlarged(const Scene& scene) {
    Scene out;
    out.name = scene.name;
    out.matte = image::Plane<float>(large);
    image::EncodedPlanes picture(scene.size()), linear(large);
    scene.photo->read(base::rectOf(scene.size()), 0, picture);
    std::mt19937 random(5);
    const double scale = static_cast<double>(scene.size().width) / large.width;
    for (int y = 0; y < large.height; ++y) {
        for (int x = 0; x < large.width; ++x) {
            const double u = (x + 0.5) * scale, v = (y + 0.5) * scale;
            const double grain = (static_cast<double>(random()) / 4294967296.0 - 0.5) * 0.02;
            const auto at = static_cast<std::size_t>(x);
            const auto tone = [&](const image::Plane<float>& from) {
                const double encoded = std::clamp(kernel::bilinear(from, u, v) + grain, 0.0, 1.0);
                return static_cast<float>(encoded * encoded);  // near enough: what it looks like does not matter here
            };
            linear.red.row(y)[at] = tone(picture.red);
            linear.green.row(y)[at] = tone(picture.green);
            linear.blue.row(y)[at] = tone(picture.blue);
            out.matte.row(y)[at] = static_cast<float>(kernel::bilinear(scene.matte, u, v));
        }
    }
    out.photo = sourceOf(linear);
    return out;
}

struct View {
    int level;
    base::Rect rect;  // of the level
};

View fitView() {
    return {3, base::rectOf(image::levelSize(large, 3))};
}

View closeView(base::Point about) {
    const int x = std::clamp(static_cast<int>(about.x) - screen.width / 2, 0, large.width - screen.width);
    const int y = std::clamp(static_cast<int>(about.y) - screen.height / 2, 0, large.height - screen.height);
    return {0, {x, y, x + screen.width, y + screen.height}};
}

double frameMs(const render::Renderer& renderer, const document::DocumentPtr& document, const View& view) {
    const auto begin = Clock::now();
    render::View look;
    look.selected = document->corrections.front()->id;
    render::renderFrame(renderer, {document, look, view.level, view.rect, {}}, {}, {}, [](const auto&, const auto&) {});
    return msSince(begin);
}

document::DocumentPtr corrected(mask::ShapePtr shape) {
    const document::DocumentPtr bare = documentWith(std::move(shape));
    return document::withCorrection(*bare, bare->corrections.front()->id, [](document::Correction& c) {
        std::vector<double> values = adjust::neutralValues(adjust::light);
        values[0] = 1;
        c.adjustments = {{100, &adjust::light, true, values}};
    });
}

// As the window does between two events of the hand, untimed.
void makeReady(const render::Renderer& renderer, base::Point at, const mask::BrushSettings& brush) {
    if (!brush.holds) return;
    const render::Sequence none(std::make_shared<const document::Document>(), {});
    const auto sight = renderer.maskContext(none, 0);
    mask::prepareToHold(
        at, brush.sizePx, [] { return true; }, sight->photo());
}

// Point after point of rim strokes; then the pen is lifted.
void brush(const Scene& scene, const render::Renderer& renderer, double radius, bool holds, bool close, double copy) {
    std::mt19937 random(3);
    std::vector<double> dab, lift;
    for (int i = 0; i < 3; ++i) {
        const auto points = rimStroke(scene.matte, radius, random);
        if (points.size() < 2) continue;
        mask::BrushSettings settings;
        settings.sizePx = 2 * radius;
        settings.holds = holds;
        const View view = close ? closeView(points[points.size() / 2].at) : fitView();
        auto stroke = std::make_shared<const mask::Stroke>(settings, points.front());
        frameMs(renderer, corrected(std::make_shared<mask::Brush>()), view);
        makeReady(renderer, points.front().at, settings);
        for (std::size_t p = 1; p < points.size(); ++p) {
            stroke = stroke->extended(points[p]);
            dab.push_back(frameMs(renderer, corrected(mask::Brush().withStroke(stroke)), view));
            makeReady(renderer, points[p].at, settings);
        }
        lift.push_back(frameMs(renderer, corrected(mask::Brush().withStroke(stroke->finished())), view));
    }
    if (dab.empty()) return;
    char name[80];
    std::snprintf(name, sizeof name, "%s dab r=%.0f %s", holds ? "held" : "plain", radius, close ? "1:1" : "fit");
    report(name, dab, copy);
    if (!holds) return;
    std::snprintf(name, sizeof name, "  pen-up r=%.0f %s", radius, close ? "1:1" : "fit");
    report(name, lift, copy);
}

mask::ShapePtr dragged(const Scene& scene) {
    std::vector<mask::RegionDrag> drags;
    for (int y = large.height / 4; y < large.height; y += large.height / 4) {
        mask::RegionDrag drag;
        for (int x = 0; x < large.width; x += 40) {
            if (scene.matte.row(y)[static_cast<std::size_t>(x)] > 0.99f)
                drag.points.push_back({static_cast<double>(x), static_cast<double>(y)});
        }
        if (drag.points.size() > 8) {
            drag.points.erase(drag.points.begin(), drag.points.begin() + 3);
            drag.points.resize(drag.points.size() - 3);
            drags.push_back(drag);
        }
    }
    return std::make_shared<mask::Region>(drags, 50);
}

// At fit, then all pixels, from nothing known but what `before` needed.
void firstThenAll(const char* what, const Scene& scene, const document::DocumentPtr& before,
                  const document::DocumentPtr& document, double copy) {
    const View whole{0, base::rectOf(large)};
    std::vector<double> first, all;
    for (int i = 0; i < 3; ++i) {
        const render::Renderer renderer(scene.photo, std::make_shared<render::TileCache>());
        if (before) frameMs(renderer, before, whole);
        const auto begin = Clock::now();
        frameMs(renderer, document, fitView());
        first.push_back(msSince(begin));
        frameMs(renderer, document, whole);
        all.push_back(msSince(begin));
    }
    report((std::string(what) + ", at fit").c_str(), first, copy);
    report((std::string(what) + ", all").c_str(), all, copy);
}

// The subject in about a hundred strokes that hold: all of them at once, then one more.
void manyStrokes(const Scene& scene, double copy) {
    constexpr double radius = 150, way = 500;
    mask::BrushSettings settings;
    settings.sizePx = 2 * radius;
    settings.holds = true;
    std::vector<mask::StrokePtr> strokes;
    for (const auto& row : overTheWhole(scene.matte, radius, 15)) {
        const base::Point from = row.front().at, to = row.back().at;
        const int parts = std::max(1, static_cast<int>((to.x - from.x) / way));
        for (int i = 0; i < parts; ++i) {
            const auto at = [&](double part) { return from + (to - from) * (part / parts); };
            strokes.push_back(
                mask::Stroke::through(settings, std::vector<mask::StrokePoint>{{at(i)}, {at(i + 1)}})->finished());
        }
    }
    const View whole{0, base::rectOf(large)};
    std::vector<double> all, more;
    for (int i = 0; i < 3; ++i) {
        const render::Renderer renderer(scene.photo, std::make_shared<render::TileCache>());
        const mask::Brush before(std::vector<mask::StrokePtr>(strokes.begin(), strokes.end() - 1));
        all.push_back(frameMs(renderer, corrected(std::make_shared<mask::Brush>(before)), whole));
        more.push_back(frameMs(renderer, corrected(before.withStroke(strokes.back())), whole));
    }
    char name[80];
    std::snprintf(name, sizeof name, "subject in %zu held strokes, all", strokes.size());
    report(name, all, copy);
    report("  one more of them, all", more, copy);
}

void wholeTools(const Scene& scene, double copy) {
    const document::DocumentPtr region = corrected(dragged(scene));
    firstThenAll("region", scene, nullptr, region, copy);
    firstThenAll("fine detail along the edge", scene, region,
                 document::withNewPart(*region, region->corrections.front()->id, mask::Brush::fineDetail.makeFor(large),
                                       mask::Combine::add)
                     .document,
                 copy);
    // Across the photo and back, as over clouds; there need be nothing there.
    const mask::WireLine line{{{200, 900}, {1900, 1100}, {3800, 1000}, {5700, 700}, {3700, 2900}}, 8};
    firstThenAll("wire of 8000 px", scene, nullptr,
                 corrected(std::make_shared<mask::Wire>(std::vector<mask::WireLine>{line}, 100)), copy);
}

void hem(const Scene& scene, double copy) {
    const render::Renderer renderer(scene.photo, std::make_shared<render::TileCache>());
    const document::DocumentPtr document = corrected(dragged(scene));
    const document::Id id = document->corrections.front()->id;
    frameMs(renderer, document, fitView());
    std::vector<double> first, again;
    auto begin = Clock::now();
    task::hemCheck(renderer, document, id);
    first.push_back(msSince(begin));
    std::mt19937 random(9);
    for (int i = 0; i < 5; ++i) {
        const auto points = rimStroke(scene.matte, 150, random);
        if (points.size() < 2) continue;
        mask::BrushSettings settings;
        settings.sizePx = 300;
        const document::DocumentPtr next =
            document::withNewPart(*document, id, brushOf({points}, settings), mask::Combine::add).document;
        frameMs(renderer, next, fitView());
        begin = Clock::now();
        task::hemCheck(renderer, next, id);
        again.push_back(msSince(begin));
    }
    report("hem check, first", first, copy);
    report("hem check, after a stroke r=150", again, copy);
}

}  // namespace

void printLatencies(const Scene& scene) {
    const double copy = copyMs();
    std::printf("%s enlarged to %d x %d; copying 24 megapixels of RGBA float: %.1f ms\n", scene.name.c_str(),
                large.width, large.height, copy);
    const Scene wide = enlarged(scene);
    const render::Renderer renderer(wide.photo, std::make_shared<render::TileCache>());
    for (const double radius : {50.0, 150.0, 400.0}) {
        for (const bool close : {false, true}) {
            brush(wide, renderer, radius, false, close, copy);
            brush(wide, renderer, radius, true, close, copy);
        }
    }
    wholeTools(wide, copy);
    manyStrokes(wide, copy);
    hem(wide, copy);
}

}  // namespace dimhem::edges
