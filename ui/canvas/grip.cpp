#include "ui/canvas/grip.h"

#include <algorithm>
#include <cmath>

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

Qt::CursorShape resizeCursor(QPointF along) {
    constexpr Qt::CursorShape byEighth[] = {Qt::SizeHorCursor, Qt::SizeFDiagCursor, Qt::SizeVerCursor,
                                            Qt::SizeBDiagCursor};
    constexpr double eighth = 0.78539816339744831;  // of a turn; a way and its opposite are one
    const int step = static_cast<int>(std::lround(std::atan2(along.y(), along.x()) / eighth));
    return byEighth[((step % 4) + 4) % 4];
}

double distance(QPointF a, QPointF b) {
    return std::hypot(a.x() - b.x(), a.y() - b.y());
}

double distanceToLine(QPointF p, const QLineF& line) {
    const QPointF way = line.p2() - line.p1();
    const double length2 = QPointF::dotProduct(way, way);
    const double t = length2 > 0 ? std::clamp(QPointF::dotProduct(p - line.p1(), way) / length2, 0.0, 1.0) : 0;
    return distance(p, line.p1() + way * t);
}

}  // namespace dimhem::ui
