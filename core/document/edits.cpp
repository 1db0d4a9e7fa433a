#include "core/document/edits.h"

#include <algorithm>
#include <map>

#include "core/colour/thread_colours.h"
#include "core/mask/borrowed_mask.h"
#include "core/mask/matte.h"

namespace dimhem::document {

namespace {

DocumentPtr keep(Document&& document) {
    return std::make_shared<const Document>(std::move(document));
}

// Thread colours are given out so that neighbours differ: the first that no correction wears, else by turns.
int freeThreadColour(const Document& document) {
    for (int i = 0; i < static_cast<int>(colour::threadColours.size()); ++i) {
        const auto wears = [i](const CorrectionPtr& c) { return c->threadColour == i; };
        if (std::none_of(document.corrections.begin(), document.corrections.end(), wears)) return i;
    }
    return static_cast<int>(document.corrections.size() % colour::threadColours.size());
}

template <class T, class SameId>
void moveTo(std::vector<T>& list, SameId sameId, std::size_t index) {
    const auto found = std::find_if(list.begin(), list.end(), sameId);
    if (found == list.end()) return;
    T item = std::move(*found);
    list.erase(found);
    list.insert(list.begin() + static_cast<std::ptrdiff_t>(std::min(index, list.size())), std::move(item));
}

// Whether something that is measured is another now.
bool changedByHand(const AdjustmentUse& before, const AdjustmentUse& after) {
    for (std::size_t i = 0; i < after.kind->tables.size(); ++i) {
        if (after.kind->tables[i].measured && before.settings.tables[i] != after.settings.tables[i]) return true;
    }
    return false;
}

// Parts that borrowed from a correction that is gone borrow from none.
CorrectionPtr withoutLender(const CorrectionPtr& correction, Id lender) {
    const auto borrows = [=](const mask::PartPtr& part) {
        const auto* borrowed = dynamic_cast<const mask::BorrowedMask*>(part->shape.get());
        return borrowed && borrowed->from() == lender;
    };
    if (std::none_of(correction->mask.parts.begin(), correction->mask.parts.end(), borrows)) return correction;
    Correction freed = *correction;
    for (mask::PartPtr& part : freed.mask.parts) {
        if (!borrows(part)) continue;
        mask::Part changed = *part;
        changed.shape = std::make_shared<mask::BorrowedMask>(0);
        part = std::make_shared<const mask::Part>(std::move(changed));
    }
    return std::make_shared<const Correction>(std::move(freed));
}

CorrectionPtr withoutCounterpart(const CorrectionPtr& correction, Id of) {
    if (correction->counterpartOf != of) return correction;
    Correction alone = *correction;
    alone.counterpartOf = 0;
    return std::make_shared<const Correction>(std::move(alone));
}

// The same matte as the document has it, its picture read; null: it has none of that file.
mask::ShapePtr knownMatte(const Document& document, const mask::Matte& wanted) {
    for (const CorrectionPtr& correction : document.corrections) {
        for (const mask::PartPtr& part : correction->mask.parts) {
            const auto* matte = dynamic_cast<const mask::Matte*>(part->shape.get());
            if (matte && matte->file() == wanted.file() && matte->pixels()) return part->shape;
        }
    }
    return nullptr;
}

// A copy of a part for a correction: what cannot lend to that one lends nothing.
mask::PartPtr copyFor(const Document& document, Id correction, const mask::Part& part, Id id) {
    mask::Part copy = part;
    copy.id = id;
    const auto* borrowed = dynamic_cast<const mask::BorrowedMask*>(part.shape.get());
    const bool isLent = borrowed && borrowed->from() != 0;
    if (isLent && (!canBorrow(document, correction, borrowed->from()) ||
                   deepestBorrowing(document, Loan{correction, borrowed->from()}) > mostBorrowing))
        copy.shape = std::make_shared<mask::BorrowedMask>(0);
    const auto* matte = dynamic_cast<const mask::Matte*>(part.shape.get());
    if (matte && !matte->isAlpha() && !matte->pixels()) {
        if (mask::ShapePtr known = knownMatte(document, *matte)) copy.shape = std::move(known);
    }
    return std::make_shared<const mask::Part>(std::move(copy));
}

// Whether the part keeps the mask within another's.
bool keepsWithin(const mask::Part& part) {
    return part.combine == mask::Combine::overlap && &part.shape->kind() == &mask::BorrowedMask::kindInfo;
}

// Behind the last part that does not; what is solved, and what keeps within itself, at the very end.
void insertPart(std::vector<mask::PartPtr>& parts, const mask::PartPtr& part) {
    auto end = parts.end();
    if (!part->shape->isZone() && !keepsWithin(*part)) {
        while (end != parts.begin() && keepsWithin(**(end - 1))) --end;
    }
    parts.insert(end, part);
}

// Those that a correction stands under, here or in no place at all.
void dropEmptyBrackets(Document& document) {
    std::erase_if(document.brackets, [&](const Bracket& bracket) {
        return std::ranges::none_of(document.corrections,
                                    [&](const CorrectionPtr& c) { return c->bracket == bracket.id; });
    });
}

}  // namespace

std::string freeName(const Document& document, const std::string& wanted) {
    std::string name = wanted;
    for (int n = 2; findCorrection(document, std::string_view(name)); ++n) name = wanted + " " + std::to_string(n);
    return name;
}

DocumentPtr withBackdrop(const Document& document, Backdrop backdrop) {
    Document next = document;
    next.backdrop = std::move(backdrop);
    return keep(std::move(next));
}

DocumentPtr withEachCorrection(const Document& document,
                               const std::function<CorrectionPtr(const CorrectionPtr&)>& change) {
    Document next = document;
    std::map<const Correction*, CorrectionPtr> known;  // a state shares what has not changed since
    const auto changeAll = [&](std::vector<CorrectionPtr>& corrections) {
        for (CorrectionPtr& correction : corrections) {
            const auto [found, isNew] = known.try_emplace(correction.get());
            if (isNew) found->second = change(correction);
            correction = found->second;
        }
    };
    changeAll(next.corrections);
    for (KeptState& state : next.states) changeAll(state.corrections);
    return keep(std::move(next));
}

DocumentPtr withNewProbe(const Document& document, const Probe& probe) {
    Document next = document;
    if (next.probes.size() < mostProbes) next.probes.push_back(probe);
    return keep(std::move(next));
}

DocumentPtr withProbe(const Document& document, std::size_t index, const Probe& probe) {
    Document next = document;
    if (index < next.probes.size()) next.probes[index] = probe;
    return keep(std::move(next));
}

DocumentPtr withoutProbe(const Document& document, std::size_t index) {
    Document next = document;
    if (index < next.probes.size()) next.probes.erase(next.probes.begin() + static_cast<std::ptrdiff_t>(index));
    return keep(std::move(next));
}

DocumentPtr withStateKept(const Document& document, const std::string& name) {
    Document next = document;
    if (next.states.size() < mostStates) next.states.push_back({name, next.corrections, next.brackets});
    return keep(std::move(next));
}

DocumentPtr withStateRenamed(const Document& document, std::size_t index, const std::string& name) {
    Document next = document;
    if (index < next.states.size()) next.states[index].name = name;
    return keep(std::move(next));
}

DocumentPtr withoutState(const Document& document, std::size_t index) {
    Document next = document;
    if (index < next.states.size()) next.states.erase(next.states.begin() + static_cast<std::ptrdiff_t>(index));
    return keep(std::move(next));
}

DocumentPtr withStateTaken(const Document& document, std::size_t index) {
    Document next = document;
    if (index < next.states.size()) {
        next.corrections = next.states[index].corrections;
        next.brackets = next.states[index].brackets;
    }
    return keep(std::move(next));
}

DocumentPtr withDismissed(const Document& document, const DismissedNote& note) {
    Document next = document;
    if (next.dismissed.size() < mostDismissed && std::ranges::find(next.dismissed, note) == next.dismissed.end())
        next.dismissed.push_back(note);
    return keep(std::move(next));
}

DocumentPtr withNoneDismissed(const Document& document) {
    Document next = document;
    next.dismissed.clear();
    return keep(std::move(next));
}

Added withNewCorrection(const Document& document, std::size_t index) {
    if (document.corrections.size() >= mostItems) return {keep(Document(document)), 0};
    Document next = document;
    Correction correction;
    correction.id = next.ids->next();
    correction.name = freeName(document, "Correction");
    correction.threadColour = freeThreadColour(document);
    const Id id = correction.id;
    index = std::min(index, next.corrections.size());
    next.corrections.insert(next.corrections.begin() + static_cast<std::ptrdiff_t>(index),
                            std::make_shared<const Correction>(std::move(correction)));
    return {keep(std::move(next)), id};
}

Added withCopyOfCorrection(const Document& document, Id correction) {
    const int at = indexOf(document, correction);
    if (at < 0 || document.corrections.size() >= mostItems) return {keep(Document(document)), 0};
    Document next = document;
    Correction copy = *document.corrections[static_cast<std::size_t>(at)];
    copy.id = next.ids->next();
    copy.name = freeName(document, copy.name);
    copy.threadColour = freeThreadColour(document);
    copy.counterpartOf = 0;
    for (mask::PartPtr& part : copy.mask.parts) {
        mask::Part renamed = *part;
        renamed.id = next.ids->next();
        part = std::make_shared<const mask::Part>(std::move(renamed));
    }
    for (AdjustmentUse& use : copy.adjustments) use.id = next.ids->next();
    const Id id = copy.id;
    next.corrections.insert(next.corrections.begin() + at + 1, std::make_shared<const Correction>(std::move(copy)));
    return {keep(std::move(next)), id};
}

DocumentPtr withoutCorrection(const Document& document, Id correction) {
    Document next = document;
    std::erase_if(next.corrections, [=](const CorrectionPtr& c) { return c->id == correction; });
    for (CorrectionPtr& other : next.corrections)
        other = withoutCounterpart(withoutLender(other, correction), correction);
    dropEmptyBrackets(next);
    return keep(std::move(next));
}

DocumentPtr withCorrectionMoved(const Document& document, Id correction, std::size_t index) {
    Document next = document;
    moveTo(
        next.corrections, [=](const CorrectionPtr& c) { return c->id == correction; }, index);
    return keep(std::move(next));
}

DocumentPtr withCorrection(const Document& document, Id correction, const std::function<void(Correction&)>& change) {
    Document next = document;
    const int at = indexOf(document, correction);
    if (at >= 0) {
        const Correction& old = *document.corrections[static_cast<std::size_t>(at)];
        Correction changed = old;
        change(changed);
        if (!(changed == old))
            next.corrections[static_cast<std::size_t>(at)] = std::make_shared<const Correction>(std::move(changed));
    }
    return keep(std::move(next));
}

Added withNewBracket(const Document& document, std::span<const Id> corrections) {
    if (document.brackets.size() >= mostItems) return {keep(Document(document)), 0};
    DocumentPtr held = keep(Document(document));
    const Id id = document.ids->next();
    for (const Id correction : corrections)
        held = withCorrection(*held, correction, [=](Correction& c) { c.bracket = id; });
    Document next = *held;
    next.brackets.push_back({id, true, 100});
    dropEmptyBrackets(next);
    return {keep(std::move(next)), id};
}

DocumentPtr withoutBracket(const Document& document, Id bracket) {
    Document next = document;
    for (CorrectionPtr& correction : next.corrections) {
        if (correction->bracket != bracket || bracket == 0) continue;
        Correction free = *correction;
        free.bracket = 0;
        correction = std::make_shared<const Correction>(std::move(free));
    }
    dropEmptyBrackets(next);
    return keep(std::move(next));
}

DocumentPtr withBracket(const Document& document, Id bracket, const std::function<void(Bracket&)>& change) {
    Document next = document;
    for (Bracket& one : next.brackets) {
        if (one.id == bracket) change(one);
    }
    return keep(std::move(next));
}

Added withNewPart(const Document& document, Id correction, mask::ShapePtr shape, mask::Combine combine) {
    const Correction* to = findCorrection(document, correction);
    if (!to || to->mask.parts.size() >= mostItems) return {keep(Document(document)), 0};
    Document numbered = document;
    const Id id = numbered.ids->next();
    return {withCorrection(numbered, correction,
                           [&](Correction& c) {
                               mask::Part part;
                               part.id = id;
                               part.name = std::string(shape->kind().label);
                               part.combine = combine;
                               part.shape = std::move(shape);
                               insertPart(c.mask.parts, std::make_shared<const mask::Part>(std::move(part)));
                           }),
            id};
}

DocumentPtr withMaskInside(const Document& document, Id correction, Id lender) {
    const bool isSound = findCorrection(document, lender) && canBorrow(document, correction, lender) &&
                         deepestBorrowing(document, Loan{correction, lender}) <= mostBorrowing;
    if (!isSound) return keep(Document(document));
    return withNewPart(document, correction, std::make_shared<mask::BorrowedMask>(lender), mask::Combine::overlap)
        .document;
}

DocumentPtr withPartTakingAway(const Document& document, Id correction, Id part) {
    const DocumentPtr turned =
        withPart(document, correction, part, [](mask::Part& p) { p.combine = mask::Combine::subtract; });
    return withCorrection(*turned, correction, [](Correction& c) {
        const bool isNothing = std::ranges::all_of(c.mask.parts, [](const mask::PartPtr& p) {
            return p->combine != mask::Combine::add || p->shape->isZone();
        });
        if (isNothing) c.mask.startsEverywhere = true;
    });
}

Added withNewPartTakingAway(const Document& document, Id correction, mask::ShapePtr shape) {
    const Added added = withNewPart(document, correction, std::move(shape), mask::Combine::subtract);
    return {withPartTakingAway(*added.document, correction, added.id), added.id};
}

Added withPartOf(const Document& document, Id correction, const mask::Part& part) {
    const Correction* to = findCorrection(document, correction);
    if (!to || to->mask.parts.size() >= mostItems) return {keep(Document(document)), 0};
    const mask::PartPtr copy = copyFor(document, correction, part, document.ids->next());
    return {withCorrection(document, correction, [&](Correction& c) { insertPart(c.mask.parts, copy); }), copy->id};
}

Added withCopyOfPart(const Document& document, Id correction, Id part, Id toCorrection) {
    const Correction* from = findCorrection(document, correction);
    const mask::Part* found = from ? mask::findPart(from->mask, part) : nullptr;
    const Correction* to = findCorrection(document, toCorrection);
    if (!found || !to || to->mask.parts.size() >= mostItems) return {keep(Document(document)), 0};
    return withPartOf(document, toCorrection, *found);
}

DocumentPtr withCopyOfMask(const Document& document, Id correction, Id toCorrection) {
    const Correction* from = findCorrection(document, correction);
    return from ? withMaskOf(document, toCorrection, from->mask) : keep(Document(document));
}

DocumentPtr withMaskOf(const Document& document, Id correction, mask::Mask mask) {
    for (mask::PartPtr& part : mask.parts) part = copyFor(document, correction, *part, document.ids->next());
    return withCorrection(document, correction, [&](Correction& c) { c.mask = std::move(mask); });
}

DocumentPtr withoutPart(const Document& document, Id correction, Id part) {
    return withCorrection(document, correction, [=](Correction& c) {
        std::erase_if(c.mask.parts, [=](const mask::PartPtr& p) { return p->id == part; });
    });
}

DocumentPtr withPartMoved(const Document& document, Id correction, Id part, std::size_t index) {
    return withCorrection(document, correction, [=](Correction& c) {
        moveTo(
            c.mask.parts, [=](const mask::PartPtr& p) { return p->id == part; }, index);
    });
}

DocumentPtr withPart(const Document& document, Id correction, Id part, const std::function<void(mask::Part&)>& change) {
    const Correction* found = findCorrection(document, correction);
    if (!found || !mask::findPart(found->mask, part)) return keep(Document(document));
    return withCorrection(document, correction, [&](Correction& c) {
        for (mask::PartPtr& p : c.mask.parts) {
            if (p->id != part) continue;
            mask::Part changed = *p;
            change(changed);
            p = std::make_shared<const mask::Part>(std::move(changed));
        }
    });
}

Added withNewAdjustment(const Document& document, Id correction, const adjust::AdjustmentKind& kind) {
    const Correction* to = findCorrection(document, correction);
    if (!to || to->adjustments.size() >= mostItems) return {keep(Document(document)), 0};
    Document numbered = document;
    const Id id = numbered.ids->next();
    return {withCorrection(numbered, correction,
                           [&](Correction& c) {
                               c.adjustments.push_back({id, &kind, true, adjust::startingSettings(kind)});
                           }),
            id};
}

DocumentPtr withAdjustmentMoved(const Document& document, Id correction, Id adjustment, std::size_t index) {
    return withCorrection(document, correction, [=](Correction& c) {
        moveTo(
            c.adjustments, [=](const AdjustmentUse& use) { return use.id == adjustment; }, index);
    });
}

DocumentPtr withoutAdjustment(const Document& document, Id correction, Id adjustment) {
    return withCorrection(document, correction, [=](Correction& c) {
        std::erase_if(c.adjustments, [=](const AdjustmentUse& use) { return use.id == adjustment; });
    });
}

DocumentPtr withAdjustment(const Document& document, Id correction, Id adjustment,
                           const std::function<void(AdjustmentUse&)>& change) {
    const Correction* found = findCorrection(document, correction);
    if (!found || !findAdjustment(*found, adjustment)) return keep(Document(document));
    return withCorrection(document, correction, [&](Correction& c) {
        for (AdjustmentUse& use : c.adjustments) {
            if (use.id != adjustment) continue;
            const AdjustmentUse before = use;
            change(use);
            if (use.measuredUnder == before.measuredUnder && changedByHand(before, use)) use.measuredUnder.reset();
        }
    });
}

}  // namespace dimhem::document
