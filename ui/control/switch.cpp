#include "ui/control/switch.h"

#include "ui/control/theme.h"

namespace dimhem::ui {

Switch::Switch(const QString& name, const QString& tip, QWidget* parent) : QAbstractButton(parent) {
    setCheckable(true);
    setAccessibleName(name);
    setToolTip(tip);
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

void paintSwitch(QPainter& painter, const QRectF& rect, bool on, bool focused) {
    painter.setRenderHint(QPainter::Antialiasing);
    const QSizeF size(theme::scaled(25), theme::scaled(13));
    const QRectF slot(
        QPointF(rect.x() + (rect.width() - size.width()) / 2, rect.y() + (rect.height() - size.height()) / 2), size);
    painter.setPen(QPen(QColor(focused ? theme::bright : theme::edge), 1));
    painter.setBrush(QColor(on ? 0xff5c5c5c : theme::field));
    painter.drawRoundedRect(slot, slot.height() / 2, slot.height() / 2);
    const double r = slot.height() / 2 - 1.5;
    const QPointF centre(on ? slot.right() - r - 1.5 : slot.left() + r + 1.5, slot.center().y());
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(on ? theme::bright : theme::edge));
    painter.drawEllipse(centre, r, r);
}

QSize Switch::sizeHint() const {
    return {theme::scaled(28), theme::scaled(24)};
}

void Switch::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    paintSwitch(painter, rect(), isChecked(), hasFocus());
}

}  // namespace dimhem::ui
