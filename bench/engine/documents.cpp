#include "bench/engine/documents.h"

#include <benchmark/benchmark.h>

#include <random>

#include "core/adjust/hue_bands.h"
#include "core/adjust/light.h"
#include "core/adjust/match_area.h"
#include "core/adjust/saturation.h"
#include "core/adjust/tint.h"
#include "core/adjust/tone_curve.h"
#include "core/adjust/white_balance.h"
#include "core/image/tiles.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"

namespace dimhem::bench {

namespace {

adjust::Settings settingsOf(const adjust::AdjustmentKind& kind, std::initializer_list<std::pair<int, double>> values) {
    adjust::Settings settings = adjust::neutralSettings(kind);
    for (const auto& [index, value] : values) settings.values[static_cast<std::size_t>(index)] = value;
    return settings;
}

}  // namespace

Chain lightAndWhiteBalance() {
    Chain chain;
    for (int i = 0; i < 8; ++i) {
        const auto& kind = i % 2 ? adjust::whiteBalance : adjust::light;
        chain[static_cast<std::size_t>(i)] = {&kind,
                                              settingsOf(kind, {{0, i % 2 ? 6500 + 150 * i : 0.1 + 0.02 * i}, {1, 4}})};
    }
    return chain;
}

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

adjust::Settings movedSettings(const adjust::AdjustmentKind& kind) {
    adjust::Settings settings = adjust::neutralSettings(kind);
    for (std::size_t i = 0; i < settings.values.size(); ++i) {
        if (!kind.params[i].toggle) settings.values[i] += 0.2 * (kind.params[i].max - settings.values[i]);
    }
    if (&kind == &adjust::toneCurve) settings.tables[0] = {0, 0, 25, 20, 70, 80, 100, 100};
    if (&kind == &adjust::hueBands) settings.tables[0] = {-40, -20, 20, 40, 8, 0, 0, 30, 45, 70, 90, 0, -35, 15};
    if (&kind == &adjust::matchArea)
        settings = adjust::matchArea.matching(settings, {0, 0, 9, 9}, {{50, 3, 4}, {9, 4, 5}}, {{60, 1, 9}, {7, 3, 6}});
    return settings;
}

document::DocumentPtr correctionsOver(double part, const Chain& chain, base::Size photo, int count) {
    document::DocumentPtr document = std::make_shared<document::Document>();
    for (int i = 0; i < count; ++i) {
        const auto& [kind, settings] = chain[static_cast<std::size_t>(i) % chain.size()];
        const auto added = document::withNewCorrection(*document, 99);
        mask::Mask mask;
        const double x = part * photo.width;
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

document::DocumentPtr withMask(mask::ShapePtr shape, const mask::Refine& refine) {
    const auto added = document::withNewCorrection(*std::make_shared<document::Document>(), 0);
    const auto part = document::withNewPart(*added.document, added.id, std::move(shape), mask::Combine::add);
    const auto use = document::withNewAdjustment(*part.document, added.id, adjust::light);
    const auto refined =
        document::withCorrection(*use.document, added.id, [&](document::Correction& c) { c.mask.refine = refine; });
    return document::withAdjustment(*refined, added.id, use.id,
                                    [](document::AdjustmentUse& u) { u.settings.values[0] = 0.5; });
}

mask::BrushSettings brushOf(double radiusPx) {
    mask::BrushSettings brush;
    brush.sizePx = 2 * radiusPx;
    return brush;
}

std::vector<mask::StrokePtr> manyStrokes(int count, base::Size photo, bool holds) {
    std::mt19937 random(7);
    std::vector<mask::StrokePtr> strokes;
    mask::BrushSettings brush = brushOf(150);
    brush.strengthPct = holds ? 100 : 4;
    brush.holds = holds;
    for (int i = 0; i < count; ++i) {
        const double x = random() % static_cast<unsigned>(photo.width),
                     y = random() % static_cast<unsigned>(photo.height);
        const mask::StrokePoint points[] = {{{x, y}, 1}, {{x + 400, y + 150}, 1}, {{x + 300, y + 500}, 1}};
        strokes.push_back(mask::Stroke::through(brush, points)->finished());
    }
    return strokes;
}

int fitLevel(base::Size photo) {
    return image::levelOfLeastSide(photo, 1280);
}

render::FrameRequest viewOf(const document::DocumentPtr& document, base::Size photo, int level, document::Id selected) {
    render::FrameRequest request;
    request.document = document;
    request.view.selected = selected;
    request.level = level;
    const base::Rect all = base::rectOf(image::levelSize(photo, level));
    const int x = all.width() / 2 - 640, y = all.height() / 2 - 426;
    request.rect = base::intersected({x, y, x + 1280, y + 853}, all);
    if (level == fitLevel(photo)) request.rect = all;
    return request;
}

void renderView(const render::Renderer& renderer, const render::FrameRequest& request) {
    render::renderFrame(renderer, request, {}, {},
                        [](const base::Rect&, const auto& tile) { benchmark::DoNotOptimize(tile->row(0).data()); });
}

}  // namespace dimhem::bench
