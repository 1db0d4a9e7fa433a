#include "core/task/measuring.h"

#include <algorithm>

#include "core/adjust/subject.h"
#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"

namespace dimhem::task {

namespace {

// The picture as an adjustment sees it leaves this correction: with what stands before the adjustment laid over all of
// the photo, as it is where models are made.
document::DocumentPtr upTo(const document::DocumentPtr& document, document::Id correction, document::Id adjustment) {
    return document::withCorrection(*document, correction, [&](document::Correction& changed) {
        const auto from = std::ranges::find(changed.adjustments, adjustment, &document::AdjustmentUse::id);
        changed.adjustments.erase(from, changed.adjustments.end());
        changed.enabled = true;
        changed.strengthPct = 100;
        changed.blend = kernel::BlendMode::normal;
        changed.mixing = kernel::MixingLaw::even;
        changed.cleanEdge = false;
        changed.mask = {};
        changed.mask.startsEverywhere = true;
    });
}

bool paintsBefore(const document::Document& document, document::Id correction, document::Id adjustment) {
    for (const document::AdjustmentUse& use : document::findCorrection(document, correction)->adjustments) {
        if (use.id == adjustment) break;
        if (use.enabled && use.kind->paints && !adjust::isNeutral(*use.kind, use.settings)) return true;
    }
    return false;
}

render::Comparison stoppingAfter(document::Id correction) {
    render::Comparison comparison;
    comparison.stopAfter = correction;
    return comparison;
}

class ArrivingPicture final : public adjust::Subject {
public:
    ArrivingPicture(const render::Renderer& renderer, const document::DocumentPtr& document, document::Id correction,
                    document::Id adjustment, const std::optional<base::Rect>& place, const base::CancelToken& cancel)
        : renderer_(renderer),
          masks_(document, {}, cancel),
          sequence_(upTo(document, correction, adjustment), stoppingAfter(correction), cancel),
          isPainted_(!place && paintsBefore(*document, correction, adjustment)),
          correction_(correction),
          place_(place) {}

    base::Size photoSize() const override { return renderer_.photo().size(); }
    bool isPainted() const override { return isPainted_; }

    image::EncodedPlanes picture(const base::Rect& rect, int level) const override {
        base::throwIfCancelled(sequence_.cancel());
        image::EncodedPlanes out(rect.size());
        renderer_.picture(sequence_, {rect, level}, out);
        return out;
    }

    image::Plane<float> coverage(const base::Rect& rect, int level) const override {
        base::throwIfCancelled(sequence_.cancel());
        if (place_) {
            const base::Rect inside = image::levelRect(*place_, level);
            return image::planeOf(rect.size(), [&](int x, int y) {
                const int px = rect.x0 + x, py = rect.y0 + y;
                return px >= inside.x0 && px < inside.x1 && py >= inside.y0 && py < inside.y1 ? 1.0f : 0.0f;
            });
        }
        const mask::CoveragePtr covered = renderer_.coverage(masks_, correction_, {rect, level});
        return image::planeOf(rect.size(), [&](int x, int y) {
            const std::uint16_t value = covered->isConstant() ? covered->value() : covered->row(y)[x];
            return static_cast<float>(value) / kernel::fullCoverage;
        });
    }

private:
    const render::Renderer& renderer_;
    render::Sequence masks_, sequence_;
    bool isPainted_;
    document::Id correction_;
    std::optional<base::Rect> place_;
};

}  // namespace

std::optional<adjust::Settings> measured(const render::Renderer& renderer, const document::DocumentPtr& document,
                                         document::Id correction, document::Id adjustment,
                                         const std::optional<base::Rect>& place, const base::CancelToken& cancel) {
    const document::Correction* found = document::findCorrection(*document, correction);
    const document::AdjustmentUse* use = found ? document::findAdjustment(*found, adjustment) : nullptr;
    if (!use || !use->kind->measure) return std::nullopt;
    return use->kind->measure(use->settings,
                              ArrivingPicture(renderer, document, correction, adjustment, place, cancel));
}

std::unique_ptr<adjust::Subject> subjectOf(const render::Renderer& renderer, const document::DocumentPtr& document,
                                           document::Id correction, document::Id adjustment,
                                           const base::CancelToken& cancel) {
    return std::make_unique<ArrivingPicture>(renderer, document, correction, adjustment, std::nullopt, cancel);
}

std::optional<Unmeasured> firstUnmeasured(const document::Document& document) {
    for (const document::CorrectionPtr& correction : document.corrections) {
        for (const document::AdjustmentUse& use : correction->adjustments) {
            if (adjust::lacksMeasuring(*use.kind, use.settings)) return Unmeasured{correction->id, use.id};
        }
    }
    return std::nullopt;
}

document::DocumentPtr withAllMeasured(const render::Renderer& renderer, document::DocumentPtr document,
                                      const base::CancelToken& cancel) {
    while (const auto next = firstUnmeasured(*document)) {
        const auto settings = measured(renderer, document, next->correction, next->adjustment, {}, cancel);
        if (!settings) return document;
        document = document::withAdjustment(*document, next->correction, next->adjustment,
                                            [&](document::AdjustmentUse& use) { use.settings = *settings; });
    }
    return document;
}

}  // namespace dimhem::task
