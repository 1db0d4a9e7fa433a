#include "ui/control/combo_box.h"

#include <QKeyEvent>
#include <QWheelEvent>

namespace dimhem::ui {

ComboBox::ComboBox(QWidget* parent) : QComboBox(parent) {
    setFocusPolicy(Qt::TabFocus);  // after a click the photo keeps the keys
}

void ComboBox::keyPressEvent(QKeyEvent* event) {
    // QComboBox takes a letter for the beginning of an entry.
    const bool opens = event->key() == Qt::Key_Space;
    if (!event->text().trimmed().isEmpty() && !opens) {
        event->ignore();
        return;
    }
    QComboBox::keyPressEvent(event);
}

void ComboBox::wheelEvent(QWheelEvent* event) {
    event->ignore();
}

}  // namespace dimhem::ui
