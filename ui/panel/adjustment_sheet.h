// The sheet from which an adjustment is added: by the fault it cures, found by typing, each with a small picture of
// what it would do to this photo under this mask.
#pragma once

#include <functional>

#include "ui/session/session.h"

class QWidget;

namespace dimhem::ui {

void openAdjustmentSheet(Session& session, QWidget* opener,
                         const std::function<void(const adjust::AdjustmentKind&)>& chosen);

}  // namespace dimhem::ui
