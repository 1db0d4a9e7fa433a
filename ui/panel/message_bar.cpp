#include "ui/panel/message_bar.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <algorithm>

#include "ui/control/icon.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

MessageBar::MessageBar(const QList<QWidget*>& over, QWidget* parent)
    : QWidget(parent), over_(over), text_(new QLabel(this)), act_(new QPushButton(this)), away_(new QTimer(this)) {
    text_->setWordWrap(true);
    text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    QToolButton* close = iconButton("x", tr("Close message"), tr("Close"), this);
    connect(close, &QAbstractButton::clicked, this, &QWidget::hide);
    connect(act_, &QAbstractButton::clicked, this, [this] {
        hide();
        if (const auto action = std::exchange(action_, nullptr)) action();
    });
    away_->setSingleShot(true);
    connect(away_, &QTimer::timeout, this, &QWidget::hide);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(14, 8, 8, 8);
    layout->addWidget(text_, 1);
    layout->addWidget(act_);
    layout->addWidget(close);
    for (QWidget* widget : over_) widget->installEventFilter(this);
    hide();
}

void MessageBar::say(const QString& sentence, const QString& actionName, const std::function<void()>& action,
                     bool passes) {
    text_->setText(sentence);
    act_->setText(actionName);
    act_->setAccessibleName(actionName);
    act_->setToolTip(actionName);
    act_->setVisible(!actionName.isEmpty());
    action_ = action;
    if (passes) {
        away_->start(8000 + static_cast<int>(sentence.size()) * 50);
    } else {
        away_->stop();
    }
    show();
    place();
    raise();
}

QString MessageBar::sentence() const {
    return isHidden() ? QString() : text_->text();
}

void MessageBar::place() {
    constexpr int offPx = 12, mostPx = 720;
    const auto seen = std::find_if(over_.begin(), over_.end(), [](const QWidget* w) { return w->isVisible(); });
    const QWidget* under = seen == over_.end() ? parentWidget() : *seen;
    const QRect area(under->mapTo(parentWidget(), QPoint()), under->size());
    const int wide = std::min(area.width() - 2 * offPx, mostPx);
    resize(wide, std::max(sizeHint().height(), layout()->heightForWidth(wide)));
    move(area.x() + (area.width() - wide) / 2, area.y() + offPx);
}

bool MessageBar::eventFilter(QObject*, QEvent* event) {
    if (isVisible() &&
        (event->type() == QEvent::Resize || event->type() == QEvent::Move || event->type() == QEvent::Show))
        place();
    return false;
}

void MessageBar::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QColor(theme::edge));
    painter.setBrush(QColor(theme::bar));
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
}

}  // namespace dimhem::ui
