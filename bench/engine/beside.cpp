// The same masked work with general-purpose libraries, in the same run: how many times as long it takes them, and how
// far their outcomes are from ours. Libraries that are not installed are left out.
#include <cmath>
#include <cstring>

#include "bench/beside/work.h"
#include "bench/engine/documents.h"
#include "bench/engine/measure.h"
#include "bench/engine/photos.h"
#include "core/adjust/light.h"
#include "core/adjust/white_balance.h"
#include "core/colour/srgb.h"
#include "core/image/tiles.h"
#include "core/mask/linear_gradient.h"

namespace dimhem::bench {
namespace {

// Up and down by turns, so that no value goes beyond white.
adjust::Settings settingsOf(int i) {
    const adjust::AdjustmentKind& kind = i % 2 == 0 ? adjust::light : adjust::whiteBalance;
    adjust::Settings settings = adjust::neutralSettings(kind);
    settings.values[0] = i % 2 == 0 ? (i % 4 == 0 ? -0.3 : 0.2) : (i % 4 == 1 ? 7200 : 6000);
    return settings;
}

document::DocumentPtr document() {
    const mask::ShapePtr gradient = std::make_shared<mask::LinearGradient>(
        base::Point{0, 0}, base::Point{1.0 * photo24.width, 0}, mask::GradientProfile::linear);
    document::DocumentPtr out = std::make_shared<document::Document>();
    for (int i = 0; i < 8; ++i) {
        const auto added = document::withNewCorrection(*out, 99);
        const auto part = document::withNewPart(*added.document, added.id, gradient, mask::Combine::add);
        const auto use =
            document::withNewAdjustment(*part.document, added.id, i % 2 == 0 ? adjust::light : adjust::whiteBalance);
        out = document::withAdjustment(*use.document, added.id, use.id,
                                       [&](document::AdjustmentUse& u) { u.settings = settingsOf(i); });
    }
    return out;
}

// What the adjustment does to linear light, read off the three primaries.
std::array<double, 9> matrixOf(int i) {
    const adjust::AdjustmentKind& kind = i % 2 == 0 ? adjust::light : adjust::whiteBalance;
    const auto operations = kind.prepare(settingsOf(i));
    std::array<double, 9> out{};
    for (std::size_t c = 0; c < 3; ++c) {
        float rgb[3] = {0, 0, 0};
        rgb[c] = 0.5f;
        kernel::ConvertibleRow row(kernel::LinearRow{rgb, rgb + 1, rgb + 2}, 1);
        adjust::apply(operations, row);
        row.linear();
        for (std::size_t r = 0; r < 3; ++r) out[r * 3 + c] = 2.0 * rgb[r];
    }
    return out;
}

// Ours, interleaved as theirs are, into memory that is there already.
void withOurs(std::vector<float>& out) {
    const render::Renderer renderer(sourceOf(photo24), std::make_shared<render::TileCache>(std::size_t{96} << 20));
    const render::Sequence sequence(document(), {});
    const image::TileGrid grid(photo24, image::defaultTilePx);
    base::parallelForAll(grid.count(), {}, {}, [&](std::size_t i) {
        const base::Rect tile = grid.tile(static_cast<int>(i) % grid.columns(), static_cast<int>(i) / grid.columns());
        image::EncodedPlanes picture(tile.size());
        renderer.picture(sequence, {tile, 0}, picture);
        for (int y = tile.y0; y < tile.y1; ++y) {
            float* to = out.data() + (std::size_t{3} * 6000 * static_cast<std::size_t>(y)) + 3 * tile.x0;
            const auto row = kernel::rowOf(picture, y - tile.y0);
            for (int x = 0; x < tile.width(); ++x) {
                *to++ = row.red[x];
                *to++ = row.green[x];
                *to++ = row.blue[x];
            }
        }
    });
}

const Work& work() {
    static const Work made = [] {
        Work out;
        out.size = photo24;
        out.rgb = reinterpret_cast<const std::uint8_t*>(sourceOf(photo24)->photo().samples.row(0));
        const render::Renderer renderer(sourceOf(photo24), std::make_shared<render::TileCache>());
        const auto doc = document();
        const auto coverage =
            renderer.coverage(render::Sequence(doc, {}), doc->corrections[0]->id, {base::rectOf(photo24), 0})
                ->copy(photo24);
        for (int y = 0; y < photo24.height; ++y)
            out.coverage.insert(out.coverage.end(), coverage.row(y).begin(), coverage.row(y).end());
        for (int i = 0; i < 8; ++i) out.steps.push_back(matrixOf(i));
        return out;
    }();
    return made;
}

void beside(benchmark::State& state, std::vector<float> (*theirs)(const Work&)) {
    work();
    std::vector<float> ours(std::size_t{3} * 6000 * 4000), other;
    double oursSeconds = 1e9;
    for (int i = 0; i < 3; ++i) oursSeconds = std::min(oursSeconds, secondsOf([&] { withOurs(ours); }));
    double theirSeconds = 0;
    for (auto _ : state) {
        theirSeconds = secondsOf([&] { other = theirs(work()); });
        state.SetIterationTime(theirSeconds);
    }
    double sum = 0, worst = 0;
    for (std::size_t i = 0; i < ours.size(); ++i) {
        const double off = 255.0 * std::abs(ours[i] - other[i]);
        sum += off;
        worst = std::max(worst, off);
    }
    state.counters["times_ours"] = theirSeconds / oursSeconds;
    state.counters["median_ms"] = 1e3 * theirSeconds;
    state.counters["ours_ms"] = 1e3 * oursSeconds;
    char label[80];
    std::snprintf(label, sizeof label, "(differs by %.2g of 255, at most %.2g)", sum / static_cast<double>(ours.size()),
                  worst);
    state.SetLabel(label);
}

#define BESIDE(name, function) \
    BENCHMARK_CAPTURE(beside, name, function)->UseManualTime()->Iterations(1)->Unit(benchmark::kMillisecond)
#ifdef DIMHEM_BESIDE_OPENCV
BESIDE(opencv, withOpenCv);
#endif
#ifdef DIMHEM_BESIDE_VIPS
BESIDE(libvips, withVips);
#endif
#ifdef DIMHEM_BESIDE_MAGICK
BESIDE(imagemagick, withImageMagick);
#endif

}  // namespace
}  // namespace dimhem::bench
