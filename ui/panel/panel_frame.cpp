#include "ui/panel/panel_frame.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>

#include "ui/control/entry_field.h"
#include "ui/control/fold.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int marginPx = 10;

}  // namespace

PanelFrame::PanelFrame(const QString& heading, PanelBorder::Edge border, const QString& settingsKey, QWidget* parent)
    : QWidget(parent), scroll_(new QScrollArea(this)), aside_(new QLabel(this)), thread_(new StitchLine(this)) {
    setAccessibleName(heading);
    setAutoFillBackground(true);
    border_ = new PanelBorder(border, settingsKey, this);
    auto* title = new QLabel(heading, this);
    title->setProperty("heading", true);
    aside_->setProperty("quiet", true);
    aside_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    auto* top = new QHBoxLayout;
    top->setContentsMargins(marginPx, 6, marginPx, 5);
    top->addWidget(title);
    top->addWidget(aside_, 1);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFrameShape(QFrame::NoFrame);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addLayout(top);
    layout->addWidget(thread_);
    layout->addWidget(scroll_, 1);
}

void PanelFrame::addBelow(QWidget* widget) {
    static_cast<QVBoxLayout*>(layout())->addWidget(widget);
    below_.append(widget);
}

// What scrolls comes first: the folds below it stay open only where both fit.
void PanelFrame::shareRoom() {
    if (!scroll_->widget() || below_.isEmpty()) return;
    int open = 0, room = scroll_->height();
    QList<Fold*> folds;
    for (QWidget* widget : below_) {
        for (Fold* fold : widget->findChildren<Fold*>()) {
            if (!fold->isVisibleTo(widget)) continue;
            folds.append(fold);
            open += fold->openHeight();
            room += fold->height();
        }
    }
    const bool isShort = scroll_->widget()->sizeHint().height() + open > room;
    for (Fold* fold : folds) fold->giveWay(isShort);
}

bool PanelFrame::eventFilter(QObject* object, QEvent* event) {
    // Folds within the body, and editors that grow.
    if (object == scroll_->widget() && event->type() == QEvent::LayoutRequest)
        QMetaObject::invokeMethod(this, &PanelFrame::shareRoom, Qt::QueuedConnection);
    return QWidget::eventFilter(object, event);
}

void PanelFrame::setAside(const QString& text) {
    asideText_ = text;
    showAside();
}

void PanelFrame::showAside() {
    aside_->setText(aside_->fontMetrics().elidedText(asideText_, Qt::ElideRight, width() - 80));
}

void PanelFrame::resizeEvent(QResizeEvent*) {
    border_->place();
    showAside();
    QMetaObject::invokeMethod(this, &PanelFrame::shareRoom, Qt::QueuedConnection);
}

void PanelFrame::setThread(const QColor& colour) {
    thread_->setColour(colour);
}

void PanelFrame::showBody(const QString& structure) {
    if (built_ != structure) {
        const QString focused = focusedName();
        const bool digits = takesDigits(focusWidget() ? *focusWidget() : *this);
        const int scrolled = scroll_->verticalScrollBar()->value();
        built_ = structure;
        refreshers_.clear();
        saveFromBody();
        QWidget* body = freshBody();
        build(static_cast<QVBoxLayout*>(body->layout()), body);
        if (auto* control = focused.isEmpty() ? nullptr : body->findChild<QWidget*>(focused)) {
            control->setFocus();
            if (focusWidget()) takeDigits(*focusWidget(), digits);
        }
        QMetaObject::invokeMethod(
            this, [this, scrolled] { scroll_->verticalScrollBar()->setValue(scrolled); }, Qt::QueuedConnection);
    }
    for (const auto& refresh : refreshers_) refresh();
    QMetaObject::invokeMethod(this, &PanelFrame::shareRoom, Qt::QueuedConnection);
}

void PanelFrame::showInBody(QWidget* control) {
    scroll_->ensureWidgetVisible(control, 0, std::min(theme::scaled(220), scroll_->height() / 2));
}

QWidget* PanelFrame::freshBody() {
    auto* body = new QWidget;
    auto* layout = new QVBoxLayout(body);
    layout->setContentsMargins(marginPx, 4, marginPx, 8);
    layout->setSpacing(0);
    scroll_->setWidget(body);  // the old one is deleted
    body->installEventFilter(this);
    return body;
}

// The object name of the control that has the focus, or of what it is part of; empty where the focus is elsewhere.
QString PanelFrame::focusedName() const {
    QWidget* widget = focusWidget();
    if (!widget || !widget->hasFocus() || !scroll_->isAncestorOf(widget)) return {};
    while (widget && widget != scroll_ && (widget->objectName().isEmpty() || widget->objectName().startsWith("qt_")))
        widget = widget->parentWidget();
    return widget && widget != scroll_ ? widget->objectName() : QString();
}

QLabel* PanelFrame::quietLabel(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("quiet", true);
    label->setWordWrap(true);
    return label;
}

QWidget* PanelFrame::separator(QWidget* parent) {
    auto* line = new QWidget(parent);
    line->setFixedHeight(1);
    line->setAutoFillBackground(true);
    QPalette palette = line->palette();
    palette.setColor(QPalette::Window, QColor(theme::line));
    line->setPalette(palette);
    return line;
}

}  // namespace dimhem::ui
