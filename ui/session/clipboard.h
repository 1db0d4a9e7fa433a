// Copying an effect, a mask, parts or an adjustment, and putting it on other corrections, of this document or another,
// in this window or another, by way of the system's clipboard.
//
// The text is the document's own JSON (document/clip.h). Beside it stands, in a form that is the program's alone, which
// photo and which document it comes from: what was measured in another photo is left out, and so is what borrows from
// corrections of another document.
#pragma once

#include "core/document/clip.h"
#include "ui/session/session.h"

class QMimeData;

namespace dimhem::ui {

void copyEffect(Session& session);  // of the selected correction
void copyMask(Session& session);
void copyParts(Session& session);  // those selected
void copyAdjustment(Session& session, document::Id adjustment);

// What such data hold, or the text of a starter, fit for the open photo and document.
base::Result<document::Clip> clipIn(const Session& session, const QMimeData* data);
// Puts its effect or its mask, as `what` says, on one correction.
void putOn(Session& session, document::Id correction, document::Clip clip, document::Clip::What what);

// Puts what was copied on all selected corrections; where none is selected, or a whole correction was copied, a new one
// is made of it.
void paste(Session& session);

}  // namespace dimhem::ui
