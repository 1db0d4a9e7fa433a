// Edits: each takes a version of a document and gives the next. What is addressed by an id that does not exist
// leaves the document as it is; so does adding beyond mostItems, with the id 0.
#pragma once

#include <functional>

#include "core/document/document.h"

namespace dimhem::document {

DocumentPtr withBackdrop(const Document& document, Backdrop backdrop);

// Each correction, those of kept states too, as `change` gives it back; asked once for each object.
DocumentPtr withEachCorrection(const Document& document,
                               const std::function<CorrectionPtr(const CorrectionPtr&)>& change);

// For judging. Probes and states by their place in the list; beyond mostProbes or mostStates none is added.
DocumentPtr withNewProbe(const Document& document, const Probe& probe);
DocumentPtr withProbe(const Document& document, std::size_t index, const Probe& probe);
DocumentPtr withoutProbe(const Document& document, std::size_t index);
DocumentPtr withStateKept(const Document& document, const std::string& name);  // the corrections as they are now
DocumentPtr withStateRenamed(const Document& document, std::size_t index, const std::string& name);
DocumentPtr withoutState(const Document& document, std::size_t index);
DocumentPtr withStateTaken(const Document& document, std::size_t index);  // its corrections in place of those now
DocumentPtr withDismissed(const Document& document, const DismissedNote& note);
DocumentPtr withNoneDismissed(const Document& document);

// The name, or with a number after it that no correction has yet.
std::string freeName(const Document& document, const std::string& wanted);

// Corrections. `index` counts from the photo; past the end means last.
struct Added {
    DocumentPtr document;
    Id id = 0;
};
Added withNewCorrection(const Document& document, std::size_t index);
Added withCopyOfCorrection(const Document& document, Id correction);
DocumentPtr withoutCorrection(const Document& document, Id correction);
DocumentPtr withCorrectionMoved(const Document& document, Id correction, std::size_t index);
DocumentPtr withCorrection(const Document& document, Id correction, const std::function<void(Correction&)>& change);

// Brackets. One that no correction stands under is gone.
Added withNewBracket(const Document& document, std::span<const Id> corrections);  // out of those they stood under
DocumentPtr withoutBracket(const Document& document, Id bracket);                 // its corrections stay
DocumentPtr withBracket(const Document& document, Id bracket, const std::function<void(Bracket&)>& change);

// Parts of a correction's mask.
Added withNewPart(const Document& document, Id correction, mask::ShapePtr shape, mask::Combine combine);
// The mask kept within another correction's: by a part that borrows it and overlaps. New parts come before such parts
// at the end, so that they stay within as well. The document as it is where that one cannot lend.
DocumentPtr withMaskInside(const Document& document, Id correction, Id lender);
// What the part covers is taken away: a new part of that shape, or one there is. From all, where no other part adds
// anything that it could be taken from.
Added withNewPartTakingAway(const Document& document, Id correction, mask::ShapePtr shape);
DocumentPtr withPartTakingAway(const Document& document, Id correction, Id part);
// A mask or a part as it stands elsewhere; what cannot lend to this correction lends nothing.
DocumentPtr withMaskOf(const Document& document, Id correction, mask::Mask mask);         // in place of its own
Added withPartOf(const Document& document, Id correction, const mask::Part& part);        // added at the end
Added withCopyOfPart(const Document& document, Id correction, Id part, Id toCorrection);  // added at the end
DocumentPtr withCopyOfMask(const Document& document, Id correction, Id toCorrection);     // in place of its own
DocumentPtr withoutPart(const Document& document, Id correction, Id part);
DocumentPtr withPartMoved(const Document& document, Id correction, Id part, std::size_t index);
DocumentPtr withPart(const Document& document, Id correction, Id part, const std::function<void(mask::Part&)>& change);

// Adjustments of a correction.
Added withNewAdjustment(const Document& document, Id correction, const adjust::AdjustmentKind& kind);
DocumentPtr withAdjustmentMoved(const Document& document, Id correction, Id adjustment, std::size_t index);
DocumentPtr withoutAdjustment(const Document& document, Id correction, Id adjustment);
DocumentPtr withAdjustment(const Document& document, Id correction, Id adjustment,
                           const std::function<void(AdjustmentUse&)>& change);

}  // namespace dimhem::document
