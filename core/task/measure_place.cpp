#include "core/task/measure_place.h"

#include <cmath>

#include "core/document/edits.h"
#include "core/task/masked_colours.h"
#include "core/task/measuring.h"
#include "core/task/probe.h"

namespace dimhem::task {

namespace {

using base::ErrorCode;
using Outcome = base::Result<Measured>;

Outcome lacks(const std::string& sentence) {
    return base::fail(ErrorCode::unsupported, "", sentence);
}

class Measurer {
public:
    Measurer(const render::Renderer& renderer, const document::DocumentPtr& document, document::Id correction,
             const MeasuredPlace& from, const base::CancelToken& cancel)
        : renderer_(renderer), document_(document), correction_(correction), from_(from), cancel_(cancel) {}

    Outcome of(const document::AdjustmentUse& use) const {
        if (use.kind->matching) return matched(use);
        if (use.kind->neutralising) return neutral(use);
        if (!use.kind->measure) return lacks(std::string(use.kind->label) + " measures nothing in the photo.");
        auto found = measured(renderer_, document_, correction_, use.id, from_.place, cancel_);
        if (!found) return base::fail(ErrorCode::unsupported, "", "There was nothing to measure there.");
        return std::move(*found);
    }

private:
    render::Sequence arriving() const {
        render::Comparison comparison;
        comparison.stopBefore = correction_;
        return render::Sequence(document_, comparison, cancel_);
    }

    Outcome neutral(const document::AdjustmentUse& use) const {
        if (!from_.place) return lacks("A balance needs a place of the photo that should be neutral.");
        const auto colour = meanColourIn(renderer_, arriving(), *from_.place);
        if (!colour || !std::isfinite(colour->r + colour->g + colour->b))
            return lacks("That place lies outside the photo, or has no valid colour.");
        return Measured{use.kind->neutralising(*colour, from_.leave), {}};
    }

    Outcome matched(const document::AdjustmentUse& use) const {
        if (!from_.place) return lacks("Match to area needs a place of the photo to match to.");
        const auto reference = coloursIn(renderer_, arriving(), *from_.place);
        if (!reference) return lacks("That place lies outside the photo.");
        const auto own = maskedColours(renderer_, document_, correction_, cancel_);
        if (!own) return lacks("The mask covers nothing that could be matched.");
        const base::Rect& p = *from_.place;
        const std::array<double, 4> place{static_cast<double>(p.x0), static_cast<double>(p.y0),
                                          static_cast<double>(p.x1), static_cast<double>(p.y1)};
        return Measured{use.kind->matching(use.settings, place, own->before.lab, *reference), {}};
    }

    const render::Renderer& renderer_;
    const document::DocumentPtr& document_;
    document::Id correction_;
    const MeasuredPlace& from_;
    const base::CancelToken& cancel_;
};

}  // namespace

base::Result<document::DocumentPtr> withMeasured(const render::Renderer& renderer,
                                                 const document::DocumentPtr& document, document::Id correction,
                                                 document::Id adjustment, const MeasuredPlace& from,
                                                 const base::CancelToken& cancel) {
    const document::Correction* found = document::findCorrection(*document, correction);
    const document::AdjustmentUse* use = found ? document::findAdjustment(*found, adjustment) : nullptr;
    if (!use) return base::fail(ErrorCode::notFound, "", "There is no such adjustment in the document.");
    const Outcome measuredNow = base::unlessCancelled(
        "The measuring was stopped.", [&] { return Measurer(renderer, document, correction, from, cancel).of(*use); });
    if (!measuredNow) return tl::unexpected(measuredNow.error());
    if (!adjust::isValid(*use->kind, measuredNow->settings))
        return base::fail(ErrorCode::unsupported, "", "What was measured there is no valid colour.");
    return document::withAdjustment(*document, correction, adjustment, [&](document::AdjustmentUse& changed) {
        changed.settings = measuredNow->settings;
        changed.measuredUnder = measuredNow->under;
    });
}

}  // namespace dimhem::task
