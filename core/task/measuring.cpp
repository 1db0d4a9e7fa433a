#include "core/task/measuring.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/adjust/subject.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
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
        changed.bracket = 0;
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

std::optional<Measured> measured(const render::Renderer& renderer, const document::DocumentPtr& document,
                                 document::Id correction, document::Id adjustment,
                                 const std::optional<base::Rect>& place, const base::CancelToken& cancel) {
    const document::Correction* found = document::findCorrection(*document, correction);
    const document::AdjustmentUse* use = found ? document::findAdjustment(*found, adjustment) : nullptr;
    if (!use || !use->kind->measure) return std::nullopt;
    const ArrivingPicture subject(renderer, document, correction, adjustment, place, cancel);
    Measured out{use->kind->measure(use->settings, subject), {}};
    if (!place) out.under = underMask(subject);
    return out;
}

std::unique_ptr<adjust::Subject> subjectOf(const render::Renderer& renderer, const document::DocumentPtr& document,
                                           document::Id correction, document::Id adjustment,
                                           const base::CancelToken& cancel) {
    return std::make_unique<ArrivingPicture>(renderer, document, correction, adjustment, std::nullopt, cancel);
}

document::MeasuredUnder underMask(const adjust::Subject& subject) {
    constexpr double mostPixels = 60'000;
    const int level = image::levelOfAtMost(subject.photoSize(), mostPixels);
    const base::Rect all = base::rectOf(image::levelSize(subject.photoSize(), level));
    const image::Plane<float> covered = subject.coverage(all, level);
    const image::EncodedPlanes picture = subject.picture(all, level);
    double sum = 0, x = 0, y = 0;
    std::array<double, 3> lab{};
    for (int row = 0; row < all.height(); ++row) {
        for (std::size_t i = 0; i < covered.row(row).size(); ++i) {
            const double weight = double{covered.row(row)[i]};
            const colour::Lab value = colour::labFromLinear(
                colour::linearFromEncoded({double{picture.red.row(row)[i]}, double{picture.green.row(row)[i]},
                                           double{picture.blue.row(row)[i]}}));
            if (weight <= 0 || !std::isfinite(value.l + value.a + value.b)) continue;
            sum += weight;
            x += weight * (static_cast<double>(i) + 0.5);
            y += weight * (row + 0.5);
            lab[0] += weight * value.l;
            lab[1] += weight * value.a;
            lab[2] += weight * value.b;
        }
    }
    if (sum <= 0) return {};
    const double scale = 1 << level;
    return {100 * sum / (static_cast<double>(all.width()) * all.height()),
            {x / sum * scale, y / sum * scale},
            {lab[0] / sum, lab[1] / sum, lab[2] / sum}};
}

bool isStale(const document::MeasuredUnder& then, const document::MeasuredUnder& now, base::Size photo) {
    constexpr double larger = 1.25, fewPct = 0.02, movedShare = 0.05, otherColour = 3;
    if (now.coveredPct == 0) return false;
    const auto [less, more] = std::minmax(then.coveredPct, now.coveredPct);
    const base::Point way = now.middle - then.middle;
    const auto& [l, a, b] = then.meanLab;
    return more > larger * less + fewPct ||
           std::hypot(way.x, way.y) > movedShare * std::max(photo.width, photo.height) ||
           std::hypot(now.meanLab[0] - l, now.meanLab[1] - a, now.meanLab[2] - b) > otherColour;
}

std::vector<Stale> staleIn(const render::Renderer& renderer, const document::DocumentPtr& document,
                           const base::CancelToken& cancel) {
    std::vector<Stale> out;
    for (const document::CorrectionPtr& correction : document->corrections) {
        for (const document::AdjustmentUse& use : correction->adjustments) {
            if (!use.measuredUnder) continue;
            const document::MeasuredUnder now =
                underMask(*subjectOf(renderer, document, correction->id, use.id, cancel));
            if (isStale(*use.measuredUnder, now, renderer.photo().size())) out.push_back({correction->id, use.id, now});
        }
    }
    return out;
}

bool measuresByItself(const adjust::AdjustmentKind& kind) {
    return kind.measure && std::ranges::any_of(kind.tables, &adjust::TableSpec::measured);
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
        const auto found = measured(renderer, document, next->correction, next->adjustment, {}, cancel);
        if (!found) return document;
        document =
            document::withAdjustment(*document, next->correction, next->adjustment, [&](document::AdjustmentUse& use) {
                use.settings = found->settings;
                use.measuredUnder = found->under;
            });
    }
    return document;
}

}  // namespace dimhem::task
