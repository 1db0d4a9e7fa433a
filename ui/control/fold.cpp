#include "ui/control/fold.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QSettings>
#include <QToolButton>
#include <QVBoxLayout>

#include "ui/control/icon.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

Fold::Fold(const QString& name, const QString& settingsKey, const QString& tip, QWidget* parent, First first)
    : QWidget(parent),
      key_("fold/" + settingsKey),
      first_(first),
      head_(new QToolButton(this)),
      summaryLabel_(new QLabel(this)),
      body_(new QWidget(this)) {
    head_->setObjectName("fold-" + settingsKey);
    head_->setText(name);
    head_->setAccessibleName(name);
    head_->setToolTip(tip);
    head_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    head_->setIconSize({12, 12});
    head_->setCheckable(true);
    head_->setProperty("plain", true);
    head_->setFocusPolicy(Qt::TabFocus);
    head_->setFixedHeight(theme::rowHeight());
    summaryLabel_->setProperty("quiet", true);
    summaryLabel_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    summaryLabel_->setMinimumWidth(10);
    rows_ = new QVBoxLayout(body_);
    rows_->setContentsMargins(0, 0, 0, 0);
    rows_->setSpacing(0);
    auto* head = new QHBoxLayout;
    head->addWidget(head_);
    head->addWidget(summaryLabel_, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addLayout(head);
    layout->addWidget(body_);
    connect(head_, &QToolButton::toggled, this, [this](bool open) {
        if (gaveWay_ && open) {
            insists_ = true;  // as it was wanted before
        } else {
            QSettings().setValue(key_, open);
        }
        gaveWay_ = false;
        setOpen(open);
    });
    const bool open = isWantedOpen();
    const QSignalBlocker quiet(head_);
    head_->setChecked(open);
    setOpen(open);
}

bool Fold::isWantedOpen() const {
    return QSettings().value(key_, first_ == First::open).toBool();
}

bool Fold::isOpen() const {
    return head_->isChecked();
}

void Fold::giveWay(bool roomIsShort) {
    if (!roomIsShort) insists_ = false;
    const bool open = isWantedOpen() && (!roomIsShort || insists_);
    gaveWay_ = roomIsShort && !open && isWantedOpen();
    if (open == isOpen()) return;
    const QSignalBlocker quiet(head_);
    head_->setChecked(open);
    setOpen(open);
}

int Fold::foldedHeight() const {
    return head_->height() + layout()->contentsMargins().top() + layout()->contentsMargins().bottom();
}

int Fold::openHeight() const {
    return foldedHeight() + (isWantedOpen() ? body_->sizeHint().height() : 0);
}

void Fold::setOpen(bool open) {
    head_->setIcon(icon(open ? "chevron-down" : "chevron-right"));
    body_->setVisible(open);
    showSummary();
}

void Fold::setSummary(const QString& summary) {
    summary_ = summary;
    summaryLabel_->setToolTip(summary);
    head_->setAccessibleDescription(summary);
    showSummary();
}

void Fold::showSummary() {
    summaryLabel_->setText(
        head_->isChecked() ? QString()
                           : summaryLabel_->fontMetrics().elidedText(summary_, Qt::ElideRight, summaryLabel_->width()));
}

void Fold::resizeEvent(QResizeEvent*) {
    showSummary();
}

}  // namespace dimhem::ui
