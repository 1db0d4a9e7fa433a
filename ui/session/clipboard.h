// Copying an effect, a mask, parts or an adjustment, and putting it on other corrections, of this document or another,
// in this window or another, by way of the system's clipboard.
//
// The text is the document's own JSON (document/clip.h). Beside it stands, in a form that is the program's alone, which
// photo and which document it comes from: what was measured in another photo is left out, and so is what borrows from
// corrections of another document.
#pragma once

#include "ui/session/session.h"

namespace dimhem::ui {

void copyEffect(Session& session);  // of the selected correction
void copyMask(Session& session);
void copyParts(Session& session);  // those selected
void copyAdjustment(Session& session, document::Id adjustment);

// Puts what was copied on all selected corrections; where none is selected, or a whole correction was copied, a new one
// is made of it.
void paste(Session& session);

}  // namespace dimhem::ui
