#include "core/render/sequence.h"

namespace dimhem::render {

namespace {

void add(Sequence::Step& step, base::KeyBuilder& key, const adjust::AdjustmentKind& kind,
         const adjust::Settings& settings) {
    step.operations.push_back(kind.prepare(settings));
    key.add(kind.id).add(std::span<const double>(settings.values));
    for (const adjust::Table& table : settings.tables) key.add(std::span<const double>(table));
}

// The use that is to be shown glaringly; null where there is none in this correction.
const document::AdjustmentUse* glaringUse(const document::Correction& correction, const Glare& glare) {
    if (!glare.adjustment || correction.id != glare.correction) return nullptr;
    const document::AdjustmentUse* use = document::findAdjustment(correction, glare.adjustment);
    const bool hasRow = use && use->kind->glaring && !use->settings.tables.empty() &&
                        glare.row < adjust::rowsOf(use->kind->tables[0], use->settings.tables[0]);
    return hasRow ? use : nullptr;
}

Sequence::Step prepare(const document::CorrectionPtr& correction, const Comparison& comparison) {
    Sequence::Step step;
    step.correction = correction;
    step.strength = static_cast<float>(correction->strengthPct / 100);
    if (correction->id == comparison.pushed) step.strength *= static_cast<float>(pushFactor);
    const document::AdjustmentUse* glaring = glaringUse(*correction, comparison.glare);
    if (glaring) step.strength = 1;
    base::KeyBuilder key;
    key.add(step.strength).add(correction->blend).add(correction->cleanEdge);
    for (const document::AdjustmentUse& use : correction->adjustments) {
        if (&use == glaring) {
            add(step, key, *use.kind, use.kind->glaring(use.settings, comparison.glare.row));
        } else if (use.enabled && !adjust::isNeutral(*use.kind, use.settings)) {
            add(step, key, *use.kind, use.settings);
        }
    }
    step.key = key.key();
    return step;
}

}  // namespace

Sequence::Sequence(document::DocumentPtr document, const Comparison& comparison) : document_(std::move(document)) {
    if (comparison.allOff) return;
    for (const document::CorrectionPtr& correction : document_->corrections) {
        if (correction->id == comparison.stopBefore) break;
        const bool acts = document::isActive(*correction) || glaringUse(*correction, comparison.glare);
        if (correction->id != comparison.without && acts) steps_.push_back(prepare(correction, comparison));
        if (correction->id == comparison.stopAfter) break;
    }
}

}  // namespace dimhem::render
