// What is done to a correction or a part that is one of several selected is done to all of them.
#pragma once

#include "core/document/edits.h"
#include "ui/session/session.h"

namespace dimhem::ui {

// Those selected where it is one of them, else it alone; in the order in which they act.
QList<document::Id> togetherWith(const Session& session, document::Id correction);
QList<mask::PartId> togetherWithPart(const Session& session, mask::PartId part);

document::DocumentPtr withEach(const document::Document& document, const QList<document::Id>& corrections,
                               const std::function<void(document::Correction&)>& change);
document::DocumentPtr withEachPart(const document::Document& document, document::Id correction,
                                   const QList<mask::PartId>& parts, const std::function<void(mask::Part&)>& change);

}  // namespace dimhem::ui
