#include "ui/panel/named_button.h"

#include <QFocusEvent>
#include <QLabel>
#include <QToolTip>

namespace dimhem::ui {

NamedButton::NamedButton(QLabel* line, const QString& usual, const QString& name, QWidget* parent)
    : QToolButton(parent), line_(line), usual_(usual), name_(name) {
    setFocusPolicy(Qt::TabFocus);
}

bool NamedButton::event(QEvent* event) {
    switch (event->type()) {
        case QEvent::FocusIn: {
            const auto reason = static_cast<QFocusEvent*>(event)->reason();
            if (reason == Qt::TabFocusReason || reason == Qt::BacktabFocusReason)
                QToolTip::showText(mapToGlobal(rect().bottomLeft()), toolTip(), this);
            line_->setText(name_);
            break;
        }
        case QEvent::Enter: line_->setText(name_); break;
        case QEvent::Leave:
        case QEvent::FocusOut: line_->setText(usual_); break;
        default: break;
    }
    return QToolButton::event(event);
}

}  // namespace dimhem::ui
