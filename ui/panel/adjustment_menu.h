// The menu of one adjustment, from its heading.
#pragma once

#include "ui/session/session.h"

class QMenu;
class QWidget;

namespace dimhem::ui {

// Of the selected correction. It goes when it is closed.
QMenu* adjustmentMenu(Session& session, document::Id adjustment, QWidget* parent);

}  // namespace dimhem::ui
