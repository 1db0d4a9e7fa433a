#include "ui/session/several.h"

namespace dimhem::ui {

using document::DocumentPtr;

QList<document::Id> togetherWith(const Session& session, document::Id correction) {
    const QList<document::Id> selected = session.selectedCorrections();
    return selected.contains(correction) ? selected : QList{correction};
}

QList<mask::PartId> togetherWithPart(const Session& session, mask::PartId part) {
    const QList<mask::PartId> selected = session.selectedParts();
    return selected.contains(part) ? selected : QList{part};
}

DocumentPtr withEach(const document::Document& document, const QList<document::Id>& corrections,
                     const std::function<void(document::Correction&)>& change) {
    auto next = std::make_shared<const document::Document>(document);
    for (const document::Id id : corrections) next = document::withCorrection(*next, id, change);
    return next;
}

DocumentPtr withEachPart(const document::Document& document, document::Id correction, const QList<mask::PartId>& parts,
                         const std::function<void(mask::Part&)>& change) {
    auto next = std::make_shared<const document::Document>(document);
    for (const mask::PartId id : parts) next = document::withPart(*next, correction, id, change);
    return next;
}

}  // namespace dimhem::ui
