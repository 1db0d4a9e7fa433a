#include "core/document/pair.h"

#include <algorithm>

#include "core/mask/brush.h"

namespace dimhem::document {

namespace {

// The first that names it; not one that is itself named by what it names.
Id counterpartNaming(const Document& document, Id correction) {
    const auto found =
        std::ranges::find(document.corrections, correction, [](const CorrectionPtr& c) { return c->counterpartOf; });
    return found == document.corrections.end() ? 0 : (*found)->id;
}

// None where nothing of it has an opposite.
std::optional<AdjustmentUse> opposed(const AdjustmentUse& use, IdSource& ids) {
    if (!use.kind->opposite) return std::nullopt;
    AdjustmentUse turned = use;
    turned.id = ids.next();
    turned.settings = use.kind->opposite(use.settings);
    if (adjust::isNeutral(*use.kind, turned.settings) && !adjust::isNeutral(*use.kind, use.settings))
        return std::nullopt;
    return turned;
}

}  // namespace

Id otherOfPair(const Document& document, Id correction) {
    const Correction* found = findCorrection(document, correction);
    if (!found) return 0;
    if (found->counterpartOf == 0) return counterpartNaming(document, correction);
    const Correction* of = findCorrection(document, found->counterpartOf);
    return of && of->counterpartOf == 0 && counterpartNaming(document, of->id) == correction ? of->id : 0;
}

AddedCounterpart withCounterpart(const Document& document, Id correction) {
    const Correction* of = findCorrection(document, correction);
    const Added added = of && otherOfPair(document, correction) == 0
                            ? withNewCorrection(document, static_cast<std::size_t>(indexOf(document, correction)) + 1)
                            : Added{};
    if (added.id == 0) return {std::make_shared<const Document>(document), 0, {}};
    AddedCounterpart out{added.document, added.id, {}};
    Correction turned = *of;
    turned.adjustments.clear();
    for (const AdjustmentUse& use : of->adjustments) {
        auto opposite = opposed(use, *document.ids);
        opposite ? turned.adjustments.push_back(std::move(*opposite)) : out.leftOut.push_back(use.kind);
    }
    const Correction& fresh = *findCorrection(*added.document, added.id);
    turned.id = fresh.id;
    turned.name = of->nameGiven ? freeName(document, of->name + ", opposite") : fresh.name;
    turned.enabled = true;
    turned.threadColour = fresh.threadColour;
    turned.threadColourChosen = false;
    turned.counterpartOf = correction;
    turned.mask = {};
    // A link of its own that led nowhere does no more.
    out.document = withCorrection(*out.document, correction, [](Correction& c) { c.counterpartOf = 0; });
    out.document = withCorrection(*out.document, added.id, [&](Correction& c) { c = std::move(turned); });
    out.document = withNewPart(*out.document, added.id, std::make_shared<mask::Brush>(), mask::Combine::add).document;
    return out;
}

mask::PartId paintedPart(const Correction& correction) {
    for (const mask::PartPtr& part : correction.mask.parts) {
        const bool isPainted = &part->shape->kind() == &mask::Brush::kindInfo;
        if (isPainted && part->enabled && part->combine == mask::Combine::add) return part->id;
    }
    return 0;
}

}  // namespace dimhem::document
