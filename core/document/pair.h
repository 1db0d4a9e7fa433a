// Two corrections as a pair: one the counterpart of the other, its adjustments each turned to their opposite, so that a
// hand gives to the one what it takes from the other (more here, less there).
//
// What makes them a pair is one link, Correction::counterpartOf. Where several name the same one the first counts.
#pragma once

#include "core/document/edits.h"
#include "core/mask/stroke.h"

namespace dimhem::document {

Id otherOfPair(const Document& document, Id correction);  // 0: it is not in a pair

// A counterpart after the correction, with an empty mask to paint. Adjustments that have no opposite, or whose settings
// say nothing that has one, are left out. `id` is 0 where the correction is in a pair already, or the document is full.
struct AddedCounterpart {
    DocumentPtr document;
    Id id = 0;
    std::vector<const adjust::AdjustmentKind*> leftOut;
};
AddedCounterpart withCounterpart(const Document& document, Id correction);

// The part of a correction's mask that strokes are painted into: its first brush that adds and is on; 0: it has none.
mask::PartId paintedPart(const Correction& correction);

}  // namespace dimhem::document
