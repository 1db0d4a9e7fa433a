// The shipped line icons, drawn in the interface's text colour.
#pragma once

#include <QIcon>

class QToolButton;
class QKeySequence;

namespace dimhem::ui {

// By file name without ending, from resources/icons.
QIcon icon(const QString& name);

// An icon button with everything it must have: tooltip (with its key), accessible name.
QToolButton* iconButton(const QString& iconName, const QString& name, const QString& tip, QWidget* parent);

}  // namespace dimhem::ui
