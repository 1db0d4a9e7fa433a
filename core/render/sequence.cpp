#include "core/render/sequence.h"

#include <algorithm>
#include <map>
#include <mutex>
#include <unordered_map>

namespace dimhem::render {

namespace {

// The model of a spatial operation depends on what those before it do, and on what it says itself.
void add(Sequence::Step& step, base::KeyBuilder& key, const adjust::AdjustmentKind& kind,
         const adjust::Settings& settings) {
    const base::KeyBuilder keyBefore = key;
    key.add(kind.id).add(std::span<const double>(settings.values));
    for (const adjust::Table& table : settings.tables) key.add(std::span<const double>(table));
    step.needsDither = step.needsDither || kind.needsDither;
    bool isFirst = true;
    for (adjust::Operation& operation : kind.prepare(settings)) {
        base::KeyBuilder model = isFirst ? keyBefore : key;
        base::KeyBuilder before = model;
        if (std::ranges::any_of(step.operations, adjust::isByCoverage))  // what stands before it is mixed by then
            before.add(step.strength).add(step.correction->blend).add(step.correction->mixing);
        step.beforeKeys.push_back(before.key());
        if (const auto* spatial = std::get_if<std::unique_ptr<const adjust::SpatialOperation>>(&operation)) {
            model.add(kind.id);
            (*spatial)->addModelKey(model);
        }
        if (adjust::isPainting(operation)) {
            model.add(kind.id).add(std::span<const double>(settings.values));
            for (const adjust::Table& table : settings.tables) model.add(std::span<const double>(table));
        }
        step.modelKeys.push_back(model.key());
        step.operations.push_back(std::move(operation));
        isFirst = false;
    }
}

// The use that is to be shown glaringly; null where there is none in this correction.
const document::AdjustmentUse* glaringUse(const document::Correction& correction, const Glare& glare) {
    if (!glare.adjustment || correction.id != glare.correction) return nullptr;
    const document::AdjustmentUse* use = document::findAdjustment(correction, glare.adjustment);
    const bool hasRow = use && use->kind->glaring && !use->settings.tables.empty() &&
                        glare.row < adjust::rowsOf(use->kind->tables[0], use->settings.tables[0]);
    return hasRow ? use : nullptr;
}

Sequence::Step prepare(const document::Document& document, const document::CorrectionPtr& correction,
                       const Comparison& comparison) {
    Sequence::Step step;
    step.correction = correction;
    step.strength = static_cast<float>(document::shareOf(document, *correction));
    if (correction->id == comparison.pushed) step.strength *= static_cast<float>(pushFactor);
    const document::AdjustmentUse* glaring = glaringUse(*correction, comparison.glare);
    if (glaring) step.strength = 1;
    base::KeyBuilder key;
    for (const document::AdjustmentUse& use : correction->adjustments) {
        if (&use == glaring) {
            add(step, key, *use.kind, use.kind->glaring(use.settings, comparison.glare.row));
        } else if (use.enabled && use.id != comparison.adjustmentOff && !adjust::isNeutral(*use.kind, use.settings)) {
            add(step, key, *use.kind, use.settings);
        }
    }
    step.key = key.add(step.strength).add(correction->blend).add(correction->mixing).add(correction->cleanEdge).key();
    return step;
}

}  // namespace

// Safe from many threads.
struct Sequence::Kept {
    std::mutex mutex;
    std::unordered_map<base::ContentKey, base::ContentKey> keys;
    std::vector<std::pair<Comparison, std::unique_ptr<const Sequence>>> compared;
    std::map<std::pair<document::Id, int>, std::shared_ptr<const adjust::Covered>> covered;
};

Sequence::Sequence(document::DocumentPtr document, const Comparison& comparison, const base::CancelToken& cancel)
    : kept_(std::make_unique<Kept>()), comparison_(comparison), cancel_(cancel), document_(std::move(document)) {
    if (comparison.allOff) return;
    for (const document::CorrectionPtr& correction : document_->corrections) {
        if (correction->id == comparison.stopBefore) break;
        const bool acts = document::isActive(*document_, *correction) || glaringUse(*correction, comparison.glare);
        if (correction->id != comparison.without && acts) steps_.push_back(prepare(*document_, correction, comparison));
        if (correction->id == comparison.stopAfter) break;
    }
}

Sequence::Sequence(Sequence&&) noexcept = default;
Sequence::~Sequence() = default;

bool Sequence::needsDither() const {
    return std::ranges::any_of(steps_, &Step::needsDither);
}

std::size_t Sequence::stepsBefore(document::Id correction) const {
    std::size_t count = 0;
    for (const document::CorrectionPtr& one : document_->corrections) {
        if (one->id == correction) break;
        if (count < steps_.size() && steps_[count].correction == one) ++count;
    }
    return count;
}

const Sequence& Sequence::compared(const Comparison& comparison) const {
    const std::lock_guard lock(kept_->mutex);
    for (const auto& [known, sequence] : kept_->compared) {
        if (known == comparison) return *sequence;
    }
    kept_->compared.emplace_back(comparison, std::make_unique<const Sequence>(document_, comparison, cancel_));
    return *kept_->compared.back().second;
}

const Sequence& Sequence::without(document::Id correction) const {
    Comparison comparison = comparison_;
    comparison.without = correction;
    return compared(comparison);
}

const Sequence& Sequence::withoutAdjustment(document::Id adjustment) const {
    Comparison comparison = comparison_;
    comparison.adjustmentOff = adjustment;
    return compared(comparison);
}

std::optional<base::ContentKey> Sequence::remembered(const base::ContentKey& question) const {
    const std::lock_guard lock(kept_->mutex);
    const auto found = kept_->keys.find(question);
    return found == kept_->keys.end() ? std::nullopt : std::optional(found->second);
}

void Sequence::remember(const base::ContentKey& question, const base::ContentKey& key) const {
    constexpr std::size_t most = 1'000'000;  // some 64 MB: a very large export begins anew
    const std::lock_guard lock(kept_->mutex);
    if (kept_->keys.size() >= most) kept_->keys.clear();
    kept_->keys[question] = key;
}

std::shared_ptr<const adjust::Covered> Sequence::covered(document::Id correction, int level) const {
    const std::lock_guard lock(kept_->mutex);
    const auto found = kept_->covered.find({correction, level});
    return found == kept_->covered.end() ? nullptr : found->second;
}

void Sequence::keepCovered(document::Id correction, int level, std::shared_ptr<const adjust::Covered> covered) const {
    const std::lock_guard lock(kept_->mutex);
    kept_->covered[{correction, level}] = std::move(covered);
}

}  // namespace dimhem::render
