#include "ui/canvas/split_line.h"

#include <cmath>
#include <numbers>

#include "ui/canvas/grip.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double splitReachPx = 9, turnAtPx = 90, labelPx = 26;

double dot(QPointF a, QPointF b) {
    return a.x() * b.x() + a.y() * b.y();
}

}  // namespace

QPointF SplitLine::middle(QSize view) const {
    return {at_.x() * view.width(), at_.y() * view.height()};
}

QPointF SplitLine::along() const {
    const double turn = angleDeg_ * std::numbers::pi / 180;
    return {std::cos(turn), std::sin(turn)};
}

QPointF SplitLine::turningGrip(QSize view) const {
    return middle(view) + turnAtPx * along();
}

QPainterPath SplitLine::otherSide(QSize view) const {
    const double far = 2.0 * (view.width() + view.height());
    const QPointF middle = this->middle(view), way = far * along(),
                  // To the left of an upright line that is not swapped.
        aside = far * QPointF(-along().y(), along().x()) * (swapped_ ? -1 : 1);
    QPainterPath path;
    path.addPolygon(QPolygonF({middle - way, middle + way, middle + way + aside, middle - way + aside}));
    path.closeSubpath();
    return path;
}

void SplitLine::paint(QPainter& painter, QSize view, const QString& result, const QString& other) const {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const QPointF middle = this->middle(view), way = 2.0 * (view.width() + view.height()) * along();
    painter.setPen(QPen(QColor(0, 0, 0, 160), 3));
    painter.drawLine(middle - way, middle + way);
    painter.setPen(QPen(QColor(theme::bright), 1.2));
    painter.drawLine(middle - way, middle + way);
    paintGrip(painter, middle, QColor(theme::bright), true, 6);
    paintGrip(painter, turningGrip(view), QColor(theme::bright), false, 5);
    const QPointF aside = labelPx * QPointF(-along().y(), along().x()) * (swapped_ ? -1 : 1);
    const auto label = [&](const QString& text, QPointF at, double sign) {
        const QRectF box = painter.fontMetrics().boundingRect(text).adjusted(-5, -3, 5, 3);
        // Clear of the line, however it lies.
        const QPointF way = at * sign * (1 + box.width() / 2 / labelPx * std::abs(at.x()) / labelPx);
        const QRectF placed(middle - turnAtPx / 2 * along() + way - QPointF(box.width() / 2, box.height() / 2),
                            box.size());
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(0, 0, 0, 150));
        painter.drawRoundedRect(placed, 3, 3);
        painter.setPen(QColor(theme::bright));
        painter.drawText(placed, Qt::AlignCenter, text);
    };
    label(other, aside, 1);
    label(result, aside, -1);
    painter.restore();
}

SplitLine::Hold SplitLine::holdAt(QPointF at, QSize view) const {
    const auto isNear = [&](QPointF grip) { return std::hypot((at - grip).x(), (at - grip).y()) <= splitReachPx; };
    if (isNear(middle(view))) return Hold::moves;
    return isNear(turningGrip(view)) ? Hold::turns : Hold::nothing;
}

bool SplitLine::press(QPointF at, QSize view) {
    hold_ = holdAt(at, view);
    return isHeld();
}

void SplitLine::move(QPointF at, QSize view) {
    if (hold_ == Hold::moves) {
        const auto part = [](double v, int side) { return std::clamp(v / std::max(side, 1), 0.02, 0.98); };
        at_ = {part(at.x(), view.width()), part(at.y(), view.height())};
    } else if (hold_ == Hold::turns) {
        const QPointF way = at - middle(view);
        if (dot(way, way) > 1) angleDeg_ = std::atan2(way.y(), way.x()) * 180 / std::numbers::pi;
    }
}

}  // namespace dimhem::ui
