// The sheet from which a correction is begun by a starter: found by typing, each with what it is for.
#pragma once

#include "ui/session/session.h"

class QWidget;

namespace dimhem::ui {

void openStartersSheet(Session& session, QWidget* opener);

}  // namespace dimhem::ui
