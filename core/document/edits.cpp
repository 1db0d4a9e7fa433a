#include "core/document/edits.h"

#include <algorithm>
#include <map>

#include "core/colour/thread_colours.h"
#include "core/mask/borrowed_mask.h"

namespace dimhem::document {

namespace {

DocumentPtr keep(Document&& document) {
    return std::make_shared<const Document>(std::move(document));
}

std::string freeName(const Document& document, const std::string& wanted) {
    std::string name = wanted;
    for (int n = 2; findCorrection(document, std::string_view(name)); ++n) name = wanted + " " + std::to_string(n);
    return name;
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

}  // namespace

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
    if (next.states.size() < mostStates) next.states.push_back({name, next.corrections});
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
    if (index < next.states.size()) next.corrections = next.states[index].corrections;
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
    for (CorrectionPtr& other : next.corrections) other = withoutLender(other, correction);
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
                               c.mask.parts.push_back(std::make_shared<const mask::Part>(std::move(part)));
                           }),
            id};
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

Added withCopyOfPart(const Document& document, Id correction, Id part, Id toCorrection) {
    const Correction* from = findCorrection(document, correction);
    const mask::Part* found = from ? mask::findPart(from->mask, part) : nullptr;
    const Correction* to = findCorrection(document, toCorrection);
    if (!found || !to || to->mask.parts.size() >= mostItems) return {keep(Document(document)), 0};
    Document numbered = document;
    const Id id = numbered.ids->next();
    return {withCorrection(numbered, toCorrection,
                           [&](Correction& c) {
                               mask::Part copy = *found;
                               copy.id = id;
                               c.mask.parts.push_back(std::make_shared<const mask::Part>(std::move(copy)));
                           }),
            id};
}

DocumentPtr withCopyOfMask(const Document& document, Id correction, Id toCorrection) {
    const Correction* from = findCorrection(document, correction);
    if (!from) return keep(Document(document));
    Document numbered = document;
    mask::Mask copy = from->mask;
    for (mask::PartPtr& part : copy.parts) {
        mask::Part own = *part;
        own.id = numbered.ids->next();
        part = std::make_shared<const mask::Part>(std::move(own));
    }
    return withCorrection(numbered, toCorrection, [&](Correction& c) { c.mask = std::move(copy); });
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
            if (use.id == adjustment) change(use);
        }
    });
}

}  // namespace dimhem::document
