#include "ui/canvas/brush_dial.h"

#include "ui/control/theme.h"
#include "ui/session/brush_steps.h"

namespace dimhem::ui {

void BrushDial::press(const PointerEvent& event) {
    pressed_ = event;
    before_ = session_.brush();
}

void BrushDial::move(const PointerEvent& event) {
    if (pressed_)
        session_.setBrush(dragged(before_, event.screen - pressed_->screen, event.modifiers & Qt::ShiftModifier));
}

void BrushDial::cancel() {
    session_.setBrush(before_);
    release();
}

void BrushDial::paint(QPainter& painter) const {
    if (!pressed_) return;
    const mask::BrushSettings& brush = session_.brush();
    const QString words = QObject::tr("%1 px, softness %2 %, strength %3 %")
                              .arg(brush.sizePx, 0, 'f', 0)
                              .arg(brush.softnessPct, 0, 'f', 0)
                              .arg(brush.strengthPct, 0, 'f', 0);
    const QRectF text = painter.fontMetrics().boundingRect(words);
    const QRectF box(pressed_->screen + QPointF(14, 14), text.size() + QSizeF(16, 8));
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x1f, 0x1f, 0x1f, 225));
    painter.drawRoundedRect(box, 4, 4);
    painter.setPen(QColor(theme::text));
    painter.drawText(box, Qt::AlignCenter, words);
}

}  // namespace dimhem::ui
