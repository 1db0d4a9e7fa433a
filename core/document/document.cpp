#include "core/document/document.h"

#include <algorithm>
#include <numeric>

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
    return a.corrections == b.corrections && a.photo == b.photo && isSame(a.backdrop, b.backdrop) &&
           a.probes == b.probes && a.states == b.states && a.dismissed == b.dismissed;
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

bool reaches(const Document& document, Id from, Id wanted, std::size_t stepsLeft) {
    if (from == wanted) return true;
    const Correction* correction = findCorrection(document, from);
    if (!correction || stepsLeft == 0) return false;
    return std::any_of(correction->mask.parts.begin(), correction->mask.parts.end(), [&](const mask::PartPtr& part) {
        const auto* borrowed = dynamic_cast<const mask::BorrowedMask*>(part->shape.get());
        return borrowed && reaches(document, borrowed->from(), wanted, stepsLeft - 1);
    });
}

}  // namespace

void forEachCorrection(const Document& document, const std::function<void(const CorrectionPtr&)>& visit) {
    std::ranges::for_each(document.corrections, visit);
    for (const KeptState& state : document.states) std::ranges::for_each(state.corrections, visit);
}

std::size_t weightOf(const Document& document) {
    return std::transform_reduce(document.corrections.begin(), document.corrections.end(), std::size_t{0},
                                 std::plus<>(), [](const CorrectionPtr& c) { return mask::weightOf(c->mask); });
}

bool canBorrow(const Document& document, Id borrower, Id lender) {
    return !reaches(document, lender, borrower, document.corrections.size());
}

bool isActive(const Correction& correction) {
    if (!correction.enabled || correction.strengthPct <= 0) return false;
    if (correction.blend != kernel::BlendMode::normal) return true;
    return std::any_of(correction.adjustments.begin(), correction.adjustments.end(), [](const AdjustmentUse& use) {
        return use.enabled && !adjust::isNeutral(*use.kind, use.settings);
    });
}

}  // namespace dimhem::document
