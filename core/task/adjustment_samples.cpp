#include "core/task/adjustment_samples.h"

#include "core/document/edits.h"

namespace dimhem::task {

document::DocumentPtr withSample(const document::Document& document, document::Id correction,
                                 const adjust::AdjustmentKind& kind) {
    const adjust::Settings settings = adjust::sampleSettings(kind);
    if (adjust::lacksMeasuring(kind, settings) || adjust::isNeutral(kind, settings)) return nullptr;
    const document::Added added = document::withNewAdjustment(document, correction, kind);
    if (added.id == 0) return nullptr;
    const document::DocumentPtr set = document::withAdjustment(
        *added.document, correction, added.id, [&](document::AdjustmentUse& use) { use.settings = settings; });
    // Whatever the correction is set to, it shows what the adjustment does.
    return document::withCorrection(*set, correction, [](document::Correction& c) {
        c.enabled = true;
        c.strengthPct = 100;
        c.bracket = 0;
    });
}

}  // namespace dimhem::task
