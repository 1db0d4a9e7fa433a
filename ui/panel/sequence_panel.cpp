#include "ui/panel/sequence_panel.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <algorithm>

#include "core/colour/thread_colours.h"
#include "core/document/edits.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "ui/control/icon.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"
#include "ui/panel/card.h"
#include "ui/panel/starters_menu.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

constexpr int heightPx = 72, scrollBarPx = 8;  // the bar is there where the cards need more than the width

// The strip the cards stand on; it draws where a dragged card would go.
class Strip final : public QWidget {
public:
    using QWidget::QWidget;
    std::optional<int> markX;

protected:
    void paintEvent(QPaintEvent*) override {
        if (!markX) return;
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(stitchPen(QColor(theme::bright), 3));
        painter.drawLine(*markX, 4, *markX, height() - 4);
    }
};

mask::Mask maskOf(mask::ShapePtr shape) {
    mask::Mask mask;
    mask.parts.push_back(std::make_shared<const mask::Part>(
        mask::Part{0, std::string(shape->kind().label), mask::Combine::add, false, true, 100, shape}));
    return mask;
}

}  // namespace

SequencePanel::SequencePanel(Session& session, const SmallPictures& pictures, QWidget* parent)
    : QWidget(parent),
      session_(session),
      pictures_(pictures),
      strip_(new Strip),
      scroll_(new QScrollArea(this)),
      new_(new QPushButton(icon("plus"), tr("New"), this)) {
    setFixedHeight(heightPx);
    setAccessibleName(tr("Sequence"));
    setProperty("help", "sequence");
    new_->setProperty("stitched", true);
    new_->setFixedSize(84, 60);
    new_->setObjectName("new-correction");
    new_->setToolTip(tr("A new correction, after the selected one"));
    new_->setAccessibleName(tr("New correction"));
    new_->setMenu(newMenu());
    auto* strip = new QHBoxLayout(strip_);
    strip->setContentsMargins(10, 0, 10, 0);
    strip->setSpacing(6);
    scroll_->setWidget(strip_);
    scroll_->setWidgetResizable(true);
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(scroll_->horizontalScrollBar(), &QScrollBar::rangeChanged, this,
            [this](int, int most) { setFixedHeight(most > 0 ? heightPx + scrollBarPx : heightPx); });
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 4, 10, 4);
    layout->addWidget(scroll_, 1);
    layout->addWidget(new_, 0, Qt::AlignVCenter);
    const auto refreshSoon = [this] { QMetaObject::invokeMethod(this, &SequencePanel::refresh, Qt::QueuedConnection); };
    connect(&session_, &Session::opened, this, [this, refreshSoon] {
        also_.clear();
        refreshSoon();
    });
    connect(&session_, &Session::threadColourChanged, this, refreshSoon);
    connect(&session_, &Session::documentChanged, this, refreshSoon);
    connect(&session_, &Session::selectionChanged, this, [this, refreshSoon] {
        refreshSoon();
        QMetaObject::invokeMethod(this, &SequencePanel::keepSelectedInSight, Qt::QueuedConnection);
    });
    constexpr int scrollMs = 20, scrollPx = 8;
    edgeScroll_.setInterval(scrollMs);
    connect(&edgeScroll_, &QTimer::timeout, this, [this] {
        QScrollBar* bar = scroll_->horizontalScrollBar();
        const bool left = scroll_->mapFromGlobal(draggedTo_).x() < scroll_->width() / 2;
        bar->setValue(bar->value() + (left ? -scrollPx : scrollPx));
        dragTo(draggedTo_);
    });
    connect(&session_, &Session::pictureChanged, this, &SequencePanel::showStates);
    connect(&pictures_, &SmallPictures::changed, this, &SequencePanel::showPictures);
    refresh();
}

void SequencePanel::paintEvent(QPaintEvent*) {
    QPainter(this).fillRect(rect(), QColor(theme::bar));
}

QMenu* SequencePanel::newMenu() {
    auto* menu = new QMenu(this);
    menu->addAction(icon("brush"), tr("Brush: starts with nothing covered"), this,
                    [this] { session_.addCorrection(maskOf(std::make_shared<mask::Brush>()), tr("add correction")); });
    menu->addAction(icon("linear-gradient"), tr("Linear gradient"), this, [this] {
        session_.addCorrection(maskOf(mask::LinearGradient::kindInfo.makeFor(session_.renderer().photo().size())),
                               tr("add correction"));
    });
    menu->addAction(icon("maximize"), tr("Whole photo"), this, [this] {
        mask::Mask mask;
        mask.startsEverywhere = true;
        session_.addCorrection(mask, tr("add correction"));
    });
    menu->addMenu(new StartersMenu(session_, this));
    menu->addSeparator();
    QAction* same = menu->addAction(icon("copy"), tr("Same mask as the selected one"), this, [this] {
        session_.addCorrection(session_.correction()->mask, tr("add correction with the same mask"));
    });
    QAction* inverse = menu->addAction(icon("contrast"), tr("The inverted mask of the selected one"), this, [this] {
        mask::Mask mask = session_.correction()->mask;
        mask.inverted = !mask.inverted;
        session_.addCorrection(mask, tr("add correction with the inverted mask"));
    });
    connect(menu, &QMenu::aboutToShow, this, [this, same, inverse] {
        same->setEnabled(session_.correction());
        inverse->setEnabled(session_.correction());
    });
    return menu;
}

void SequencePanel::refresh() {
    QList<document::Id> shown, wanted;
    for (const auto& [id, card] : cards_) shown.append(id);
    if (session_.isOpen()) {
        for (const auto& correction : session_.document()->corrections) wanted.append(correction->id);
    }
    new_->setEnabled(session_.isOpen());
    if (!session_.isOpen() || !photo_ || shown != wanted) rebuild();
    also_.remove(session_.selectedCorrection());
    showStates();
    showPictures();
}

void SequencePanel::rebuild() {
    auto* layout = static_cast<QHBoxLayout*>(strip_->layout());
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget()) item->widget()->deleteLater();
        delete item;
    }
    cards_.clear();
    photo_ = result_ = nullptr;
    if (!session_.isOpen()) return;
    const auto arrow = [&] {
        auto* label = new QLabel(QString(QChar(0x203a)), strip_);
        label->setProperty("quiet", true);
        layout->addWidget(label);
    };
    photo_ = new Card(tr("Photo"), false, strip_);
    photo_->setObjectName("card-photo");
    connect(photo_, &Card::pressed, this, [this] {
        also_.clear();
        session_.selectCorrection(0);
        refresh();
    });
    layout->addWidget(photo_);
    for (const auto& correction : session_.document()->corrections) {
        arrow();
        layout->addWidget(addCorrectionCard(*correction));
    }
    arrow();
    result_ = new Card(tr("Result"), false, strip_);
    result_->setObjectName("card-result");
    layout->addWidget(result_);
    layout->addStretch(1);
}

Card* SequencePanel::addCorrectionCard(const document::Correction& correction) {
    const document::Id id = correction.id;
    auto* card = new Card(QString::fromStdString(correction.name), true, strip_);
    card->setObjectName(QString("card-%1").arg(id));
    connect(card, &Card::pressed, this, [this, id](Qt::KeyboardModifiers modifiers) { press(id, modifiers); });
    connect(card, &Card::renamed, this, [this, id](const QString& name) {
        session_.edit(tr("rename correction"), [&](const document::Document& d) {
            return document::withCorrection(d, id, [&](document::Correction& c) { c.name = name.toStdString(); });
        });
    });
    connect(card, &Card::switched, this,
            [this, id](bool on) { setEnabled(selected().contains(id) ? selected() : QList{id}, on); });
    connect(card, &Card::removeWanted, this, [this, id] { remove(selected().contains(id) ? selected() : QList{id}); });
    connect(card, &Card::dragged, this, &SequencePanel::dragTo);
    connect(card, &Card::moveWanted, this, [this, id](int places) {
        const QList<document::Id> ids = selected().contains(id) ? selected() : QList{id};
        const int at = document::indexOf(*session_.document(), places < 0 ? ids.front() : ids.back());
        moveBefore(ids, places < 0 ? at - 1 : at + 2);
    });
    connect(card, &Card::dropped, this, [this, id](QPoint global) { drop(id, global); });
    connect(card, &Card::menuWanted, this, [this, id](QPoint global) { showCardMenu(id, global); });
    cards_.append({id, card});
    return card;
}

void SequencePanel::showStates() {
    if (!session_.isOpen() || !photo_) return;
    const base::Size size = session_.renderer().photo().size();
    photo_->setState(tr("Photo"), tr("%1 × %2").arg(size.width).arg(size.height), true,
                     session_.selectedCorrection() == 0, false, {});
    result_->setState(tr("Result"), {}, true, false, false, {});
    for (const auto& [id, card] : cards_) {
        const document::Correction* correction = document::findCorrection(*session_.document(), id);
        if (!correction) continue;
        card->setState(QString::fromStdString(correction->name), tr("%1 %").arg(correction->strengthPct, 0, 'f', 0),
                       correction->enabled, id == session_.selectedCorrection(), also_.contains(id),
                       threadColour(correction->threadColour));
    }
}

void SequencePanel::showPictures() {
    if (!photo_) return;
    photo_->setPicture(pictures_.pictures().photo);
    result_->setPicture(pictures_.pictures().result);
    for (const auto& [id, card] : cards_) card->setPicture(pictures_.pictures().corrections.value(id));
}

void SequencePanel::press(document::Id id, Qt::KeyboardModifiers modifiers) {
    if (modifiers & Qt::ShiftModifier) {
        selectUpTo(id);
    } else if (modifiers & Qt::ControlModifier && id != session_.selectedCorrection()) {
        also_.contains(id) ? void(also_.remove(id)) : void(also_.insert(id));
    } else if (!also_.contains(id)) {
        also_.clear();
        session_.selectCorrection(id);
    }
    showStates();
}

// All from the selected one to this one.
void SequencePanel::selectUpTo(document::Id id) {
    const int from = document::indexOf(*session_.document(), session_.selectedCorrection()),
              to = document::indexOf(*session_.document(), id);
    if (from < 0 || to < 0) return;
    also_.clear();
    for (int i = std::min(from, to); i <= std::max(from, to); ++i) also_.insert(cards_[i].first);
    also_.remove(session_.selectedCorrection());
}

// In the order in which they act.
QList<document::Id> SequencePanel::selected() const {
    QList<document::Id> ids;
    for (const auto& [id, card] : cards_) {
        if (also_.contains(id) || id == session_.selectedCorrection()) ids.append(id);
    }
    return ids;
}

void SequencePanel::setEnabled(const QList<document::Id>& ids, bool on) {
    session_.edit(on ? tr("switch correction on") : tr("switch correction off"), [&](const document::Document& d) {
        auto next = std::make_shared<const document::Document>(d);
        for (const document::Id id : ids)
            next = document::withCorrection(*next, id, [on](document::Correction& c) { c.enabled = on; });
        return next;
    });
}

void SequencePanel::toggleSelected() {
    if (session_.correction()) setEnabled(selected(), !session_.correction()->enabled);
}

void SequencePanel::openNewMenu() {
    if (new_->isEnabled()) new_->showMenu();
}

void SequencePanel::removeSelected() {
    remove(selected());
}

void SequencePanel::remove(const QList<document::Id>& ids) {
    if (ids.isEmpty()) return;
    also_.clear();
    const document::Correction* first = document::findCorrection(*session_.document(), ids.front());
    const QString name = first ? QString::fromStdString(first->name) : QString();
    session_.edit(tr("remove correction"), [&](const document::Document& d) {
        auto next = std::make_shared<const document::Document>(d);
        for (const document::Id id : ids) next = document::withoutCorrection(*next, id);
        return next;
    });
    session_.sayOfStep(ids.size() == 1 ? tr("Removed %1.").arg(name) : tr("Removed %1 corrections.").arg(ids.size()));
}

// Before which card a drop at this place would go.
int SequencePanel::dropIndex(QPoint global) const {
    const int x = strip_->mapFromGlobal(global).x();
    int index = 0;
    while (index < cards_.size() && x > cards_[index].second->geometry().center().x()) ++index;
    return index;
}

void SequencePanel::dragTo(QPoint global) {
    constexpr int nearPx = 40;
    auto* strip = static_cast<Strip*>(strip_);
    const int index = dropIndex(global);
    strip->markX = index < cards_.size() ? cards_[index].second->x() - 10 : result_->x() - 10;
    strip->update();
    draggedTo_ = global;
    const int x = scroll_->mapFromGlobal(global).x();
    if (x > nearPx && x < scroll_->width() - nearPx) {
        edgeScroll_.stop();
    } else if (!edgeScroll_.isActive()) {
        edgeScroll_.start();
    }
}

void SequencePanel::drop(document::Id id, QPoint global) {
    edgeScroll_.stop();
    auto* strip = static_cast<Strip*>(strip_);
    strip->markX.reset();
    strip->update();
    moveBefore(selected().contains(id) ? selected() : QList{id}, dropIndex(global));
}

void SequencePanel::moveBefore(const QList<document::Id>& ids, int place) {
    if (place < 0 || place > cards_.size()) return;
    QList<document::Id> before, after;
    for (int i = 0; i < cards_.size(); ++i) {
        if (!ids.contains(cards_[i].first)) (i < place ? before : after).append(cards_[i].first);
    }
    const QList<document::Id> order = before + ids + after;
    session_.edit(ids.size() == 1 ? tr("move correction") : tr("move corrections"), [&](const document::Document& d) {
        auto next = std::make_shared<const document::Document>(d);
        for (int i = 0; i < order.size(); ++i)
            next = document::withCorrectionMoved(*next, order[i], static_cast<std::size_t>(i));
        return next;
    });
}

void SequencePanel::keepSelectedInSight() {
    for (const auto& [id, card] : cards_) {
        if (id == session_.selectedCorrection()) scroll_->ensureWidgetVisible(card, 20, 0);
    }
}

void SequencePanel::showCardMenu(document::Id id, QPoint global) {
    session_.selectCorrection(id);
    QMenu menu;
    menu.addAction(tr("Rename\tF2"), this, [this, id] {
        for (const auto& [cardId, card] : cards_) {
            if (cardId == id) card->rename();
        }
    });
    menu.addAction(tr("Duplicate\tCtrl+D"), &session_, &Session::duplicateCorrection);
    QMenu* masks = menu.addMenu(tr("Copy mask to"));
    for (const auto& other : session_.document()->corrections) {
        if (other->id == id) continue;
        masks->addAction(QString::fromStdString(other->name), this, [this, id, to = other->id] {
            session_.edit(tr("copy mask"),
                          [&](const document::Document& d) { return document::withCopyOfMask(d, id, to); });
        });
    }
    masks->setEnabled(!masks->isEmpty());
    QMenu* threads = menu.addMenu(tr("Thread colour"));
    for (int i = 0; i < static_cast<int>(colour::threadColours.size()); ++i) {
        QPixmap swatch(16, 16);
        swatch.fill(threadColour(i));
        const std::string_view label = colour::threadColours[static_cast<std::size_t>(i)].label;
        threads->addAction(swatch, words(label), this, [this, id, i] {
            session_.edit(tr("change thread colour"), [&](const document::Document& d) {
                return document::withCorrection(d, id, [=](document::Correction& c) {
                    c.threadColour = i;
                    c.threadColourChosen = true;
                });
            });
        });
    }
    menu.addSeparator();
    menu.addAction(tr("Remove\tDelete"), this, &SequencePanel::removeSelected);
    menu.exec(global);
}

}  // namespace dimhem::ui
