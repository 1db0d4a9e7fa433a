#include "ui/session/brush_steps.h"

#include <algorithm>
#include <cmath>
#include <iterator>

namespace dimhem::ui {

namespace {

constexpr double strengths[] = {1, 2, 3, 4, 5, 7, 10, 15, 20, 30, 40, 50, 60, 70, 80, 90, 100};

void set(mask::BrushSettings& brush, double mask::BrushSettings::*value, double wanted) {
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (param.value == value) brush.*value = base::clamped(param.spec, wanted);
    }
}

// At least by one, so that small brushes change too.
double steppedSize(double size, int step) {
    const double next = std::round(step > 0 ? size * 1.1 : size / 1.1);
    return next == size ? size + step : next;
}

double steppedStrength(double strength, int step) {
    if (step > 0) {
        const double* next = std::upper_bound(std::begin(strengths), std::end(strengths), strength);
        return next == std::end(strengths) ? strength : *next;
    }
    const double* at = std::lower_bound(std::begin(strengths), std::end(strengths), strength);
    return at == std::begin(strengths) ? *at : *std::prev(at);
}

}  // namespace

mask::BrushSettings stepped(mask::BrushSettings brush, BrushTrait trait, int steps) {
    using Brush = mask::BrushSettings;
    const int step = steps < 0 ? -1 : 1;
    for (int i = 0; i < std::abs(steps); ++i) {
        switch (trait) {
            case BrushTrait::size: set(brush, &Brush::sizePx, steppedSize(brush.sizePx, step)); break;
            case BrushTrait::softness: set(brush, &Brush::softnessPct, brush.softnessPct + 5 * step); break;
            case BrushTrait::strength: set(brush, &Brush::strengthPct, steppedStrength(brush.strengthPct, step)); break;
        }
    }
    return brush;
}

mask::BrushSettings dragged(mask::BrushSettings brush, QPointF way, bool strength) {
    using Brush = mask::BrushSettings;
    constexpr double doublesAfterPx = 120, pctPerPx = 0.4;
    set(brush, &Brush::sizePx, std::round(brush.sizePx * std::exp2(way.x() / doublesAfterPx)));
    const auto trait = strength ? &Brush::strengthPct : &Brush::softnessPct;
    set(brush, trait, std::round(brush.*trait - pctPerPx * way.y()));
    return brush;
}

}  // namespace dimhem::ui
