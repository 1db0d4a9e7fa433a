#include "core/document/document.h"

#include <algorithm>
#include <map>
#include <numeric>
#include <set>

#include "core/mask/borrowed_mask.h"

namespace dimhem::document {

namespace {

bool isSame(const Backdrop& a, const Backdrop& b) {
    if (a.index() != b.index()) return false;
    if (const auto* colour = std::get_if<colour::EncodedRgb>(&a)) {
        const auto& other = std::get<colour::EncodedRgb>(b);
        return colour->r == other.r && colour->g == other.g && colour->b == other.b;
    }
    const auto* picture = std::get_if<BackdropPicture>(&a);
    return !picture ||
           (picture->path == std::get<BackdropPicture>(b).path && picture->photo == std::get<BackdropPicture>(b).photo);
}

}  // namespace

bool isSame(const Document& a, const Document& b) {
    return a.corrections == b.corrections && a.brackets == b.brackets && a.photo == b.photo &&
           isSame(a.backdrop, b.backdrop) && a.probes == b.probes && a.states == b.states && a.dismissed == b.dismissed;
}

const Correction* findCorrection(const Document& document, Id id) {
    for (const CorrectionPtr& correction : document.corrections) {
        if (correction->id == id) return correction.get();
    }
    return nullptr;
}

const Correction* findCorrection(const Document& document, std::string_view name) {
    for (const CorrectionPtr& correction : document.corrections) {
        if (correction->name == name) return correction.get();
    }
    return nullptr;
}

int indexOf(const Document& document, Id correction) {
    for (std::size_t i = 0; i < document.corrections.size(); ++i) {
        if (document.corrections[i]->id == correction) return static_cast<int>(i);
    }
    return -1;
}

const AdjustmentUse* findAdjustment(const Correction& correction, Id id) {
    for (const AdjustmentUse& use : correction.adjustments) {
        if (use.id == id) return &use;
    }
    return nullptr;
}

namespace {

using Lenders = std::map<Id, std::vector<Id>>;

// From whom each correction borrows.
Lenders lendersIn(const Document& document) {
    Lenders lenders;
    for (const CorrectionPtr& correction : document.corrections) {
        for (const mask::PartPtr& part : correction->mask.parts) {
            if (const auto* borrowed = dynamic_cast<const mask::BorrowedMask*>(part->shape.get()))
                lenders[correction->id].push_back(borrowed->from());
        }
    }
    return lenders;
}

// Visits what a correction's mask is made of, itself first, each once.
template <class Visit>
void forEachReached(const Lenders& lenders, Id from, Visit visit) {
    std::vector<Id> left{from};
    std::set<Id> met{from};
    while (!left.empty()) {
        const Id next = left.back();
        left.pop_back();
        visit(next);
        const auto found = lenders.find(next);
        if (found == lenders.end()) continue;
        for (const Id lender : found->second) {
            if (met.insert(lender).second) left.push_back(lender);
        }
    }
}

}  // namespace

bool canBorrow(const Document& document, Id borrower, Id lender) {
    bool free = true;
    forEachReached(lendersIn(document), lender, [&](Id met) { free = free && met != borrower; });
    return free;
}

namespace {

// Corrections in an order in which each comes after those it borrows from. Who borrows in a loop, or from one that
// does, is not in it.
std::vector<Id> lendersFirst(const Document& document, const Lenders& lenders) {
    std::map<Id, std::size_t> waitsFor;
    std::map<Id, std::vector<Id>> borrowers;
    std::vector<Id> done;
    for (const CorrectionPtr& correction : document.corrections) waitsFor[correction->id] = 0;
    for (const auto& [borrower, from] : lenders) {
        for (const Id lender : from) {
            if (!waitsFor.contains(lender)) continue;
            ++waitsFor[borrower];
            borrowers[lender].push_back(borrower);
        }
    }
    for (const auto& [id, count] : waitsFor) {
        if (count == 0) done.push_back(id);
    }
    for (std::size_t i = 0; i < done.size(); ++i) {
        for (const Id borrower : borrowers[done[i]]) {
            if (--waitsFor[borrower] == 0) done.push_back(borrower);
        }
    }
    return done;
}

}  // namespace

// A walk along the lenders of one that is in no order ends in a loop.
const Correction* borrowsItself(const Document& document) {
    const Lenders lenders = lendersIn(document);
    const std::vector<Id> ordered = lendersFirst(document, lenders);
    const std::set<Id> done(ordered.begin(), ordered.end());
    const auto waits = [&](Id id) { return !done.contains(id) && findCorrection(document, id); };
    const auto first = std::ranges::find_if(document.corrections, [&](const CorrectionPtr& c) { return waits(c->id); });
    if (first == document.corrections.end()) return nullptr;
    std::set<Id> met;
    Id at = (*first)->id;
    while (met.insert(at).second) at = *std::ranges::find_if(lenders.at(at), waits);
    return findCorrection(document, at);
}

std::size_t deepestBorrowing(const Document& document, const std::optional<Loan>& besides) {
    Lenders lenders = lendersIn(document);
    if (besides) lenders[besides->borrower].push_back(besides->lender);
    std::map<Id, std::size_t> depths;
    std::size_t deepest = 0;
    for (const Id id : lendersFirst(document, lenders)) {
        std::size_t depth = 0;
        for (const Id lender : lenders[id]) depth = std::max(depth, depths[lender]);
        depths[id] = depth + 1;
        deepest = std::max(deepest, depth + 1);
    }
    return deepest;
}

void forEachCorrection(const Document& document, const std::function<void(const CorrectionPtr&)>& visit) {
    std::ranges::for_each(document.corrections, visit);
    for (const KeptState& state : document.states) std::ranges::for_each(state.corrections, visit);
}

std::size_t weightOf(const Document& document) {
    return std::transform_reduce(document.corrections.begin(), document.corrections.end(), std::size_t{0},
                                 std::plus<>(), [](const CorrectionPtr& c) { return mask::weightOf(c->mask); });
}

bool paints(const Correction& correction) {
    return std::any_of(correction.adjustments.begin(), correction.adjustments.end(),
                       [](const AdjustmentUse& use) { return use.enabled && use.kind->paints; });
}

const Bracket* bracketOf(const Document& document, const Correction& correction) {
    const auto found = std::ranges::find(document.brackets, correction.bracket, &Bracket::id);
    return found == document.brackets.end() ? nullptr : &*found;
}

double shareOf(const Document& document, const Correction& correction) {
    const Bracket* bracket = bracketOf(document, correction);
    if (!correction.enabled || (bracket && !bracket->enabled)) return 0;
    return correction.strengthPct / 100 * (bracket ? bracket->strengthPct / 100 : 1);
}

bool isActive(const Document& document, const Correction& correction) {
    return shareOf(document, correction) > 0 && isActive(correction);
}

bool isActive(const Correction& correction) {
    if (!correction.enabled || correction.strengthPct <= 0) return false;
    if (correction.blend != kernel::BlendMode::normal) return true;
    return std::any_of(correction.adjustments.begin(), correction.adjustments.end(), [](const AdjustmentUse& use) {
        return use.enabled && !adjust::isNeutral(*use.kind, use.settings);
    });
}

}  // namespace dimhem::document
