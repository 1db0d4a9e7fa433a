#include "ui/control/drag_label.h"

#include <QApplication>
#include <QMouseEvent>

namespace dimhem::ui {

void DragLabel::mousePressEvent(QMouseEvent* event) {
    pressedAt_ = event->pos();
    dragging_ = false;
}

void DragLabel::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) return;
    if ((event->pos() - pressedAt_).manhattanLength() >= QApplication::startDragDistance()) dragging_ = true;
    if (dragging_) Q_EMIT dragged(event->globalPosition().toPoint());
}

void DragLabel::mouseReleaseEvent(QMouseEvent* event) {
    if (std::exchange(dragging_, false)) Q_EMIT dropped(event->globalPosition().toPoint());
}

}  // namespace dimhem::ui
