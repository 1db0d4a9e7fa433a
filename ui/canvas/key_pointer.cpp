#include "ui/canvas/key_pointer.h"

#include <QColor>
#include <algorithm>

namespace dimhem::ui {

namespace {

constexpr double keyStepPx = 6, farPx = 40, nearPx = 1;
constexpr double borderPx = 40;  // about the pointer, kept in sight

std::optional<QPointF> wayOf(int key) {
    switch (key) {
        case Qt::Key_Left: return QPointF(-1, 0);
        case Qt::Key_Right: return QPointF(1, 0);
        case Qt::Key_Up: return QPointF(0, -1);
        case Qt::Key_Down: return QPointF(0, 1);
        default: return std::nullopt;
    }
}

}  // namespace

KeyPointer::Does KeyPointer::takeKey(const QKeyEvent& event, bool pressed, QSize view) {
    if (event.key() == Qt::Key_Space && at_) {
        if (event.isAutoRepeat()) return Does::moves;  // still held: nothing new
        if (pressed == pressed_) return Does::nothing;
        pressed_ = pressed;
        return pressed ? Does::presses : Does::releases;
    }
    const auto way = wayOf(event.key());
    if (!way || !pressed) return Does::nothing;
    if (!at_) at_ = QPointF(view.width() / 2.0, view.height() / 2.0);
    const bool alt = event.modifiers() & Qt::AltModifier, shift = event.modifiers() & Qt::ShiftModifier;
    *at_ += *way * (alt ? nearPx : shift ? farPx : keyStepPx);
    at_ = QPointF(std::clamp(at_->x(), 0.0, view.width() - 1.0), std::clamp(at_->y(), 0.0, view.height() - 1.0));
    return Does::moves;
}

QPointF KeyPointer::pan(QSize view) const {
    if (!at_) return {};
    const auto past = [](double v, double size) {
        return v < borderPx ? borderPx - v : v > size - borderPx ? size - borderPx - v : 0.0;
    };
    return {past(at_->x(), view.width()), past(at_->y(), view.height())};
}

void KeyPointer::moveBy(QPointF by) {
    if (at_) *at_ += by;
}

void KeyPointer::leave() {
    at_.reset();
    pressed_ = false;
}

void KeyPointer::paint(QPainter& painter) const {
    if (!at_) return;
    constexpr double inner = 5, outer = 13;
    painter.save();
    for (const auto& [colour, width] : {std::pair(QColor(0, 0, 0, 170), 3.6), std::pair(QColor(255, 255, 255), 1.4)}) {
        painter.setPen(QPen(colour, width));
        for (const QPointF way : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
            painter.drawLine(*at_ + way * inner, *at_ + way * outer);
    }
    painter.restore();
}

}  // namespace dimhem::ui
