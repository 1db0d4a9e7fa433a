#include "core/render/sequence.h"

namespace dimhem::render {

namespace {

Sequence::Step prepare(const document::CorrectionPtr& correction, const Comparison& comparison) {
    Sequence::Step step;
    step.correction = correction;
    step.strength = static_cast<float>(correction->strengthPct / 100);
    if (correction->id == comparison.pushed) step.strength *= static_cast<float>(pushFactor);
    base::KeyBuilder key;
    key.add(step.strength).add(correction->blend).add(correction->cleanEdge);
    for (const document::AdjustmentUse& use : correction->adjustments) {
        if (!use.enabled || adjust::isNeutral(*use.kind, use.settings)) continue;
        step.operations.push_back(use.kind->prepare(use.settings));
        key.add(use.kind->id).add(std::span<const double>(use.settings.values));
        for (const adjust::Table& table : use.settings.tables) key.add(std::span<const double>(table));
    }
    step.key = key.key();
    return step;
}

}  // namespace

Sequence::Sequence(document::DocumentPtr document, const Comparison& comparison) : document_(std::move(document)) {
    if (comparison.allOff) return;
    for (const document::CorrectionPtr& correction : document_->corrections) {
        if (correction->id == comparison.stopBefore) break;
        if (correction->id == comparison.without || !document::isActive(*correction)) continue;
        steps_.push_back(prepare(correction, comparison));
    }
}

}  // namespace dimhem::render
