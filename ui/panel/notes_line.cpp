#include "ui/panel/notes_line.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "ui/control/icon.h"
#include "ui/panel/note_words.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

namespace {

constexpr int mostWidthPx = 560, offPx = 8;

}  // namespace

NotesLine::NotesLine(Session& session, NotesWatch& notes, QWidget* over, QWidget* parent)
    : QWidget(parent),
      session_(session),
      notes_(notes),
      over_(over),
      head_(new QToolButton(this)),
      list_(new QWidget(parent)) {
    setProperty("help", "look");
    head_->setObjectName("notes");
    head_->setFocusPolicy(Qt::TabFocus);
    head_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    head_->setIconSize({12, 12});
    head_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);  // its text gives way
    connect(head_, &QAbstractButton::clicked, this, &NotesLine::toggle);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(head_);
    list_->setObjectName("notes-list");
    list_->setAccessibleName(tr("Notes"));
    list_->setAutoFillBackground(true);
    list_->hide();
    over_->installEventFilter(this);
    connect(&notes_, &NotesWatch::changed, this, &NotesLine::refresh);
    refresh();
}

void NotesLine::setWindowArea(QWidget* window) {
    list_->setParent(window);
    list_->hide();
}

void NotesLine::refresh() {
    const auto& items = notes_.items();
    const bool any = !items.isEmpty() || notes_.hasDismissed();
    setVisible(any);
    if (!any) list_->hide();
    if (items.isEmpty()) {
        text_ = tr("No notes");
    } else {
        const QString first = noteText(items.front().note, *session_.document());
        text_ = items.size() == 1 ? first : tr("%1, and %2 more").arg(first).arg(items.size() - 1);
    }
    head_->setAccessibleName(tr("Notes: %1").arg(text_));
    head_->setToolTip(
        withKey(tr("%1\nPress for all of them, each with its place and what would ease it.").arg(text_), "notes"));
    showHead();
    if (list_->isVisible()) fillList();
}

void NotesLine::showHead() {
    constexpr int iconAndPaddingPx = 34;
    head_->setIcon(icon(list_->isVisible() ? "chevron-down" : "chevron-up"));
    head_->setText(head_->fontMetrics().elidedText(text_, Qt::ElideRight, std::max(60, width() - iconAndPaddingPx)));
}

void NotesLine::resizeEvent(QResizeEvent*) {
    showHead();
}

void NotesLine::toggle() {
    if (!isVisible()) return;
    list_->setVisible(!list_->isVisible());
    if (list_->isVisible()) fillList();
    showHead();
}

void NotesLine::goTo(const NotesWatch::Item& item) {
    session_.selectCorrection(item.note.correction);
    if (!item.note.place.empty()) Q_EMIT placeWanted(item.note.place);
}

QWidget* NotesLine::rowOf(const NotesWatch::Item& item) {
    auto* row = new QWidget(list_);
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    auto* text = new QLabel(noteText(item.note, *session_.document()), row);
    text->setWordWrap(true);
    text->setToolTip(noteTip(item.note.kind));
    layout->addWidget(text, 1);
    const auto add = [&](const QString& words, const QString& tip, auto act) {
        auto* button = new QPushButton(words, row);
        button->setAccessibleName(tr("%1: %2").arg(words, text->text()));
        button->setToolTip(tip);
        connect(button, &QAbstractButton::clicked, this, act, Qt::QueuedConnection);  // the row may go with it
        layout->addWidget(button);
        return button;
    };
    add(tr("Go there"), tr("Selects the correction and looks at the place"), [this, item] {
        goTo(item);
    })->setObjectName("note-go");
    if (item.easePct)
        add(tr("Ease to %1 %").arg(*item.easePct), tr("Sets the strength at which this would no longer be said"),
            [this, item] { notes_.ease(item); })
            ->setObjectName("note-ease");
    add(tr("Dismiss"), tr("Not said of this correction again, in this document"), [this, item] {
        notes_.dismiss(item);
    })->setObjectName("note-dismiss");
    return row;
}

void NotesLine::fillList() {
    qDeleteAll(list_->findChildren<QWidget*>(Qt::FindDirectChildrenOnly));
    delete list_->layout();
    auto* layout = new QVBoxLayout(list_);
    layout->setContentsMargins(12, 8, 8, 8);
    layout->setSpacing(2);
    for (const NotesWatch::Item& item : notes_.items()) layout->addWidget(rowOf(item));
    if (notes_.hasDismissed()) {
        auto* back = new QPushButton(tr("Bring back dismissed notes"), list_);
        back->setObjectName("notes-back");
        back->setToolTip(tr("All that were dismissed in this document"));
        connect(back, &QAbstractButton::clicked, &notes_, &NotesWatch::bringBack, Qt::QueuedConnection);
        layout->addWidget(back, 0, Qt::AlignLeft);
    }
    for (auto* child : list_->findChildren<QWidget*>(Qt::FindDirectChildrenOnly))
        child->show();  // counts in the height
    placeList();
}

void NotesLine::placeList() {
    const QWidget* window = list_->parentWidget();
    const QRect area(over_->mapTo(window, QPoint()), over_->size());
    const int wide = std::min(area.width() - 2 * offPx, mostWidthPx);
    const int high = std::max(list_->layout()->heightForWidth(wide), list_->layout()->sizeHint().height());
    list_->setGeometry(area.x() + offPx, area.bottom() - offPx - high, wide, high);
    list_->raise();
}

bool NotesLine::eventFilter(QObject*, QEvent* event) {
    if (list_->isVisible() && (event->type() == QEvent::Resize || event->type() == QEvent::Move)) placeList();
    return false;
}

}  // namespace dimhem::ui
