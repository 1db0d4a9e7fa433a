// The colour the brush brings, picked from the photo as it arrives at the selected correction: in the background.
#pragma once

#include "ui/session/session.h"

namespace dimhem::ui {

void pickBrushColour(Session& session, base::Point place);
// It becomes the brush's, and the newest of those picked.
void setBrushColour(Session& session, const colour::EncodedRgb& colour);

}  // namespace dimhem::ui
