#include "ui/control/drag_field.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

#include "ui/control/entry_field.h"
#include "ui/control/theme.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

constexpr double pxOfRange = 220;  // of the hand for the whole range

}  // namespace

DragField::DragField(const base::ParamSpec& spec, QWidget* parent)
    : QWidget(parent), spec_(spec), value_(spec.neutral) {
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::SizeHorCursor);
    setAccessibleName(words(spec.label));
    setToolTip(tr("%1\nDrag sideways, or type.").arg(words(spec.tip)));
    setFixedHeight(theme::scaled(24));
    setMinimumWidth(26);
    pause_.setSingleShot(true);
    pause_.setInterval(600);
    connect(&pause_, &QTimer::timeout, this, &DragField::finished);
}

void DragField::setValue(double value) {
    if (dragging_ || value == value_) return;
    value_ = value;
    update();
}

void DragField::change(double value) {
    const double grid = std::pow(10.0, -spec_.decimals);
    value_ = base::clamped(spec_, std::round(value / grid) * grid);
    update();
    sayChanged(this);
    Q_EMIT changed(value_);
}

void DragField::setSpokenValue(double value) {
    change(value);
    Q_EMIT finished();
}

void DragField::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), QColor(theme::field));
    const double place = (value_ - spec_.neutral) / std::max(spec_.max - spec_.neutral, spec_.neutral - spec_.min);
    const double middle = width() / 2.0;
    painter.fillRect(QRectF(std::min(middle, middle * (1 + place)), height() - 3, std::abs(middle * place), 3),
                     QColor(theme::edge));
    painter.setPen(QColor(value_ == spec_.neutral ? theme::quiet : theme::bright));
    painter.drawText(rect().adjusted(0, 0, 0, -2), Qt::AlignCenter,
                     value_ == spec_.neutral ? QStringLiteral("0") : QString::number(value_, 'f', spec_.decimals));
    if (hasFocus()) {
        painter.setPen(QPen(QColor(theme::bright), 1));
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void DragField::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    dragging_ = true;
    dragFrom_ = event->position().x();
    dragStart_ = value_;
}

void DragField::mouseMoveEvent(QMouseEvent* event) {
    if (!dragging_) return;
    change(dragStart_ + (event->position().x() - dragFrom_) / pxOfRange * (spec_.max - spec_.min));
}

void DragField::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !dragging_) return;
    dragging_ = false;
    takeDigits(*this, value_ == dragStart_);
    if (value_ != dragStart_) Q_EMIT finished();
}

void DragField::mouseDoubleClickEvent(QMouseEvent*) {
    change(spec_.neutral);
    Q_EMIT finished();
}

void DragField::focusInEvent(QFocusEvent* event) {
    const Qt::FocusReason reason = event->reason();
    if (reason == Qt::TabFocusReason || reason == Qt::BacktabFocusReason) takeDigits(*this, true);
    update();
}

bool DragField::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && beginsNumber(*this, *static_cast<QKeyEvent*>(event))) {
        event->accept();
        return true;
    }
    return QWidget::event(event);
}

void DragField::keyPressEvent(QKeyEvent* event) {
    const double size = event->modifiers() & Qt::ShiftModifier ? 10 : event->modifiers() & Qt::AltModifier ? 0.1 : 1;
    const int key = event->key();
    if (key == Qt::Key_Up || key == Qt::Key_Right || key == Qt::Key_Down || key == Qt::Key_Left) {
        change(value_ + (key == Qt::Key_Up || key == Qt::Key_Right ? 1 : -1) * size * spec_.step);
        pause_.start();
        return;
    }
    if (beginsNumber(*this, *event)) return type(event->text());
    QWidget::keyPressEvent(event);
}

void DragField::type(const QString& first) {
    typed_ = new EntryField({}, this);
    typed_->setGeometry(rect());
    typed_->setAlignment(Qt::AlignCenter);
    typed_->setAccessibleName(accessibleName());
    typed_->show();
    typed_->typeFirst(first);
    connect(typed_, &EntryField::entered, this, [this] {
        const auto value = typedValue(spec_, typed_->text());
        if (!value) return;
        change(*value);
        Q_EMIT finished();
    });
    const auto done = [this] {
        EntryField* field = std::exchange(typed_, nullptr);
        if (!field) return;
        field->deleteLater();
    };
    connect(typed_, &EntryField::givenUp, this, [this, done] {
        done();
        setFocus();
    });
    connect(typed_, &QLineEdit::editingFinished, this, done);
}

}  // namespace dimhem::ui
