#include "ui/panel/message_bar.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "ui/control/icon.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int mostShown = 2;

}  // namespace

class MessageRow final : public QWidget {
public:
    MessageRow(const Message& message, const std::function<void()>& close, QWidget* parent)
        : QWidget(parent), message_(message) {
        setObjectName(isWarning() ? "warning" : "remark");
        auto* text = new QLabel(message.sentence, this);
        text->setWordWrap(true);
        text->setTextInteractionFlags(Qt::TextSelectableByMouse);
        auto* layout = new QHBoxLayout(this);
        layout->setContentsMargins(14, 8, 8, 8);
        if (isWarning()) {
            auto* sign = new QLabel(this);
            sign->setPixmap(icon("triangle-alert").pixmap(16, 16));
            sign->setAccessibleName(tr("Warning"));
            layout->addWidget(sign, 0, Qt::AlignTop);
        }
        layout->addWidget(text, 1);
        if (!message.actionName.isEmpty()) {
            auto* act = new QPushButton(message.actionName, this);
            act->setFocusPolicy(Qt::TabFocus);
            act->setAccessibleName(message.actionName);
            act->setToolTip(message.actionName);
            QObject::connect(act, &QAbstractButton::clicked, parent, [close, action = message.action] {
                close();
                if (action) action();
            });
            layout->addWidget(act);
        }
        QToolButton* away = iconButton("x", tr("Close message"), tr("Close"), this);
        QObject::connect(away, &QAbstractButton::clicked, parent, close);
        layout->addWidget(away);
    }

    const QString& sentence() const { return message_.sentence; }
    bool isWarning() const { return message_.rank == Message::Rank::warning; }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(QColor(isWarning() ? theme::bright : theme::edge), 1));
        painter.setBrush(QColor(theme::bar));
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    }

private:
    Message message_;
};

MessageBar::MessageBar(const QList<QWidget*>& over, QWidget* parent) : QWidget(parent), over_(over) {
    away_.setSingleShot(true);
    connect(&away_, &QTimer::timeout, this, [this] { close(remark_); });
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    for (QWidget* widget : over_) widget->installEventFilter(this);
    hide();
}

MessageRow* MessageBar::addRow(const Message& message) {
    auto row = std::make_shared<MessageRow*>(nullptr);
    *row = new MessageRow(
        message, [this, row] { close(*row); }, this);
    layout()->addWidget(*row);
    return *row;
}

void MessageBar::say(const Message& message) {
    if (message.rank == Message::Rank::remark) {
        if (remark_) close(remark_);
        newest_ = remark_ = addRow(message);
        away_.start(8000 + static_cast<int>(message.sentence.size()) * 50);
    } else {
        // Said again, it stands once, with what can be done about it now.
        const auto same =
            std::ranges::find_if(warnings_, [&](const MessageRow* row) { return row->sentence() == message.sentence; });
        if (same != warnings_.end()) close(*same);
        newest_ = addRow(message);
        warnings_.append(newest_);
    }
    showRows();
}

void MessageBar::close(MessageRow* row) {
    if (!row) return;
    if (row == remark_) {
        remark_ = nullptr;
        away_.stop();
    }
    if (row == newest_) newest_ = nullptr;
    warnings_.removeAll(row);
    layout()->removeWidget(row);
    // The keys go back to the photo, not to whatever comes next in the order of Tab.
    if (QWidget* focus = QApplication::focusWidget(); focus && row->isAncestorOf(focus)) focus->clearFocus();
    row->hide();
    row->deleteLater();  // it may be the one that was pressed
    showRows();
}

void MessageBar::showRows() {
    const qsizetype room = mostShown - (remark_ ? 1 : 0);
    for (qsizetype i = 0; i < warnings_.size(); ++i) warnings_[i]->setVisible(warnings_.size() - i <= room);
    if (remark_) remark_->show();  // a row that is not shown yet would get no room
    setVisible(remark_ || !warnings_.isEmpty());
    if (isHidden()) return;
    place();
    raise();
}

QString MessageBar::sentence() const {
    if (newest_) return newest_->sentence();
    return warnings_.isEmpty() ? QString() : warnings_.back()->sentence();
}

QStringList MessageBar::sentences() const {
    QStringList all;
    for (const MessageRow* row : warnings_) {
        if (!row->isHidden()) all << row->sentence();
    }
    if (remark_) all << remark_->sentence();
    return all;
}

void MessageBar::place() {
    constexpr int offPx = 12, mostPx = 720;
    const auto seen = std::find_if(over_.begin(), over_.end(), [](const QWidget* w) { return w->isVisible(); });
    const QWidget* under = seen == over_.end() ? parentWidget() : *seen;
    const QRect area(under->mapTo(parentWidget(), QPoint()), under->size());
    const int wide = std::min(area.width() - 2 * offPx, mostPx);
    layout()->invalidate();
    resize(wide, layout()->hasHeightForWidth() ? layout()->heightForWidth(wide) : sizeHint().height());
    move(area.x() + (area.width() - wide) / 2, area.y() + offPx);
}

bool MessageBar::eventFilter(QObject*, QEvent* event) {
    if (isVisible() &&
        (event->type() == QEvent::Resize || event->type() == QEvent::Move || event->type() == QEvent::Show))
        place();
    return false;
}

}  // namespace dimhem::ui
