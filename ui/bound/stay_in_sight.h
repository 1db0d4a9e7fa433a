// The button that leaves a row of a table, or a part alone, in sight while one looks round (Session::LeftInSight).
#pragma once

#include <QPushButton>

#include "ui/session/session.h"

namespace dimhem::ui {

QPushButton* stayInSightButton(Session& session, const Session::LeftInSight& what, const QString& tip, QWidget* parent);

}  // namespace dimhem::ui
