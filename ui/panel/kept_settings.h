// The settings of one adjustment kept by name, to be put on others of its kind: an entry of the adjustment's menu.
#pragma once

#include "ui/session/session.h"

class QMenu;

namespace dimhem::ui {

void addKeptSettings(QMenu& menu, Session& session, document::Id adjustment);  // of the selected correction

}  // namespace dimhem::ui
