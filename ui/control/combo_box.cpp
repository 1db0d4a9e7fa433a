#include "ui/control/combo_box.h"

#include <QAbstractItemView>
#include <QKeyEvent>
#include <QWheelEvent>

namespace dimhem::ui {

ComboBox::ComboBox(QWidget* parent, Width width) : QComboBox(parent), width_(width) {
    setFocusPolicy(Qt::TabFocus);  // after a click the photo keeps the keys
    if (width_ == Width::given) setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    // QComboBox makes its list long before it is shown, and Qt's style sheets keep what they know of it for good,
    // unless it was polished before it goes.
    view()->parentWidget()->ensurePolished();
}

QSize ComboBox::sizeHint() const {
    constexpr int leastPx = 40;
    const QSize hint = QComboBox::sizeHint();
    return width_ == Width::given ? QSize(leastPx, hint.height()) : hint;
}

QSize ComboBox::minimumSizeHint() const {
    return width_ == Width::given ? sizeHint() : QComboBox::minimumSizeHint();
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
