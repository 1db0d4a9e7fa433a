#include "ui/canvas/grip.h"

namespace dimhem::ui {

void paintGrip(QPainter& painter, QPointF at, const QColor& colour, bool filled, double radiusPx) {
    painter.setBrush(filled ? colour : QColor(20, 20, 20, 200));
    painter.setPen(QPen(filled ? QColor(0, 0, 0, 160) : colour, 1.4));
    painter.drawEllipse(at, radiusPx, radiusPx);
}

void paintCircle(QPainter& painter, QPointF at, double radiusPx, const QPen& pen) {
    painter.setPen(QPen(QColor(0, 0, 0, 140), pen.widthF() + 1.8));
    painter.drawEllipse(at, radiusPx, radiusPx);
    painter.setPen(pen);
    painter.drawEllipse(at, radiusPx, radiusPx);
}

}  // namespace dimhem::ui
