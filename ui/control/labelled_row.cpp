#include "ui/control/labelled_row.h"
#include "ui/control/theme.h"

#include <QBoxLayout>
#include <QEvent>
#include <QLabel>
#include <algorithm>

namespace dimhem::ui {

namespace {

constexpr int leastLabelPx = 64, gapPx = 6;  // so that controls that expand begin at one place in rows below each other

}  // namespace

LabelledRow::LabelledRow(const QString& label, QWidget* control, QWidget* parent)
    : QWidget(parent),
      layout_(new QBoxLayout(QBoxLayout::LeftToRight, this)),
      label_(new QLabel(label, this)),
      control_(control) {
    control->setParent(this);
    label_->setBuddy(control);
    const bool expands = control->sizePolicy().horizontalPolicy() & QSizePolicy::ExpandFlag;
    if (expands) label_->setMinimumWidth(theme::scaled(leastLabelPx));
    layout_->setContentsMargins(0, 1, 0, 1);
    layout_->setSpacing(0);
    layout_->addWidget(label_, expands ? 0 : 1);
    layout_->addWidget(control, expands ? 1 : 0);
}

QSize LabelledRow::minimumSizeHint() const {
    return {std::max(label_->minimumSizeHint().width(), control_->minimumSizeHint().width()),
            QWidget::minimumSizeHint().height()};
}

void LabelledRow::arrange() {
    const int beside =
        std::max(label_->sizeHint().width(), label_->minimumWidth()) + gapPx + control_->minimumSizeHint().width();
    layout_->setDirection(beside <= width() ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom);
}

void LabelledRow::resizeEvent(QResizeEvent*) {
    arrange();
}

bool LabelledRow::event(QEvent* event) {
    if (event->type() == QEvent::LayoutRequest) arrange();
    return QWidget::event(event);
}

}  // namespace dimhem::ui
