#include "ui/control/switch.h"

#include <QPainter>

#include "ui/control/theme.h"

namespace dimhem::ui {

Switch::Switch(const QString& name, const QString& tip, QWidget* parent) : QAbstractButton(parent) {
    setCheckable(true);
    setAccessibleName(name);
    setToolTip(tip);
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

void Switch::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF slot = QRectF((width() - 25) / 2.0, (height() - 13) / 2.0, 25, 13);
    painter.setPen(QPen(QColor(hasFocus() ? theme::bright : theme::edge), 1));
    painter.setBrush(QColor(isChecked() ? 0xff5c5c5c : theme::field));
    painter.drawRoundedRect(slot, slot.height() / 2, slot.height() / 2);
    const double r = slot.height() / 2 - 1.5;
    const QPointF centre(isChecked() ? slot.right() - r - 1.5 : slot.left() + r + 1.5, slot.center().y());
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(isChecked() ? theme::bright : theme::edge));
    painter.drawEllipse(centre, r, r);
}

}  // namespace dimhem::ui
