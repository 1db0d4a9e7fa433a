#include "ui/panel/card.h"

#include <QApplication>
#include <QMouseEvent>
#include <QPainter>

#include "ui/control/entry_field.h"
#include "ui/control/stitch.h"
#include "ui/control/switch.h"
#include "ui/control/theme.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

namespace {

constexpr QRect pictureRect(7, 6, 60, 40);
constexpr int textLeft = 74;

}  // namespace

Card::Card(const QString& name, bool isCorrection, QWidget* parent)
    : QWidget(parent), isCorrection_(isCorrection), name_(name) {
    setFixedSize(sizeHint());
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(name);
    if (!isCorrection) return;
    switch_ = new Switch(tr("%1 on").arg(name), withKey(tr("This correction on or off"), "on-off"), this);
    switch_->setGeometry(textLeft - 2, 23, 28, 24);
    connect(switch_, &QAbstractButton::clicked, this, &Card::switched);
}

void Card::setPicture(const QImage& picture) {
    picture_ = picture;
    update();
}

void Card::setState(const QString& name, const QString& detail, bool enabled, bool selected, bool alsoSelected,
                    const QColor& thread) {
    name_ = name;
    detail_ = detail;
    enabled_ = enabled;
    selected_ = selected;
    alsoSelected_ = alsoSelected;
    thread_ = thread;
    setAccessibleName(name);
    if (switch_) switch_->setChecked(enabled);
    setToolTip(isCorrection_ ? tr("%1\nDouble click to rename, drag to reorder, Delete to remove. Ctrl+click or "
                                  "Shift+click selects several.")
                                   .arg(name)
                             : name);
    update();
}

void Card::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(selected_ || alsoSelected_ ? theme::raised : theme::panel));
    painter.drawRoundedRect(rect(), 5, 5);
    if (selected_ || hasFocus()) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(hasFocus() ? QPen(QColor(theme::text), 1) : stitchPen(QColor(theme::quiet), 1));
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
    }
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.setOpacity(enabled_ ? 1 : 0.45);
    if (!picture_.isNull()) {
        QRect target(QPoint(), picture_.size().scaled(pictureRect.size(), Qt::KeepAspectRatio));
        target.moveCenter(pictureRect.center());
        painter.drawImage(target, picture_);
    }
    painter.setOpacity(1);
    QFont font = this->font();
    font.setWeight(selected_ ? QFont::DemiBold : QFont::Normal);
    painter.setFont(font);
    painter.setPen(QColor(enabled_ ? theme::text : theme::quiet));
    const int textWidth = width() - textLeft - 6;
    painter.drawText(QRect(textLeft, 6, textWidth, 18), Qt::AlignVCenter,
                     QFontMetrics(font).elidedText(name_, Qt::ElideRight, textWidth));
    painter.setFont(this->font());
    painter.setPen(QColor(theme::quiet));
    const int detailLeft = textLeft + (switch_ ? 34 : 0);
    painter.drawText(QRect(detailLeft, 26, width() - detailLeft - 4, 18), Qt::AlignVCenter, detail_);
    if (!thread_.isValid()) return;
    painter.setPen(stitchPen(thread_));
    painter.drawLine(QPointF(9, height() - 8), QPointF(width() - 9, height() - 8));
}

void Card::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    pressedAt_ = event->pos();
    dragging_ = false;
    Q_EMIT pressed(event->modifiers());
}

void Card::mouseMoveEvent(QMouseEvent* event) {
    if (!isCorrection_ || !(event->buttons() & Qt::LeftButton)) return;
    if ((event->pos() - pressedAt_).manhattanLength() >= QApplication::startDragDistance()) dragging_ = true;
    if (dragging_) Q_EMIT dragged(event->globalPosition().toPoint());
}

void Card::mouseReleaseEvent(QMouseEvent* event) {
    if (std::exchange(dragging_, false)) Q_EMIT dropped(event->globalPosition().toPoint());
}

void Card::mouseDoubleClickEvent(QMouseEvent*) {
    rename();
}

void Card::rename() {
    if (!isCorrection_) return;
    renameField(name_, {textLeft - 5, 3, width() - textLeft, 24}, this,
                [this](const QString& name) { Q_EMIT renamed(name); });
}

// Delete removes this card's correction; without a word here the window would take the key for the selected one.
bool Card::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && isCorrection_ &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Delete) {
        event->accept();
        return true;
    }
    return QWidget::event(event);
}

void Card::keyPressEvent(QKeyEvent* event) {
    const bool moves = isCorrection_ && event->modifiers() & Qt::AltModifier;
    switch (event->key()) {
        case Qt::Key_Left:
        case Qt::Key_Right:
            if (!moves) return QWidget::keyPressEvent(event);
            Q_EMIT moveWanted(event->key() == Qt::Key_Left ? -1 : 1);
            break;
        case Qt::Key_Return:
        case Qt::Key_Enter:
        case Qt::Key_Space: Q_EMIT pressed(event->modifiers()); break;
        case Qt::Key_F2: rename(); break;
        case Qt::Key_Delete:
            if (isCorrection_) Q_EMIT removeWanted();
            break;
        default: QWidget::keyPressEvent(event);
    }
}

void Card::contextMenuEvent(QContextMenuEvent* event) {
    if (isCorrection_) Q_EMIT menuWanted(event->globalPos());
}

}  // namespace dimhem::ui
