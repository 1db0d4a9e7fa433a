#include "ui/panel/sequence_panel.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QMimeData>
#include <QPainter>
#include <QPushButton>
#include <QScrollBar>
#include <algorithm>

#include "core/colour/thread_colours.h"
#include "core/document/edits.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "ui/control/icon.h"
#include "ui/control/item_list.h"
#include "ui/control/theme.h"
#include "ui/panel/card_delegate.h"
#include "ui/panel/sequence_model.h"
#include "ui/panel/starters_menu.h"
#include "ui/panel/starters_sheet.h"
#include "ui/session/clipboard.h"
#include "ui/session/key_table.h"
#include "ui/session/several.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

mask::Mask maskOf(mask::ShapePtr shape) {
    mask::Mask mask;
    mask.parts.push_back(std::make_shared<const mask::Part>(
        mask::Part{0, std::string(shape->kind().label), mask::Combine::add, false, true, 100, shape}));
    return mask;
}

QString withKeyOf(const QString& words, const QString& id) {
    return words + "\t" + keyText(id);
}

}  // namespace

SequencePanel::SequencePanel(Session& session, const SmallPictures& pictures, QWidget* parent)
    : QWidget(parent),
      session_(session),
      model_(new SequenceModel(session, pictures, this)),
      list_(new ItemList(Qt::Horizontal, this)),
      new_(new QPushButton(icon("plus"), tr("New"), this)) {
    const QSize card = CardDelegate::cardSize();
    const int height = card.height() + theme::scaled(12), barPx = 8;
    setFixedHeight(height);
    setAccessibleName(tr("Sequence"));
    setProperty("help", "sequence");
    list_->setObjectName("sequence");
    list_->setAccessibleName(tr("Corrections, in the order in which they act"));
    list_->setSpacing(theme::scaled(3));
    list_->setModel(model_);
    list_->setItemDelegate(new CardDelegate(list_));
    // The bar is there where the cards need more than the width.
    connect(list_->horizontalScrollBar(), &QScrollBar::rangeChanged, this,
            [this, height](int, int most) { setFixedHeight(most > 0 ? height + barPx : height); });
    new_->setProperty("stitched", true);
    new_->setFixedSize(theme::scaled(84), card.height());
    new_->setObjectName("new-correction");
    new_->setToolTip(tr("A new correction, after the selected one"));
    new_->setAccessibleName(tr("New correction"));
    new_->setMenu(newMenu());
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(theme::scaled(6), 2, theme::scaled(10), 2);
    layout->addWidget(list_, 1);
    layout->addWidget(new_, 0, Qt::AlignVCenter);

    connect(list_, &ItemList::chosen, this, &SequencePanel::choose);
    connect(list_, &ItemList::moveWanted, this,
            [this](const QList<int>& rows, int before) { moveBefore(model_->idsOf(rows), before - 1); });
    list_->setDropsOn(true);
    list_->setTakesText(true);
    connect(list_, &ItemList::dropWanted, this, [this](int row, int on, QPoint global) {
        const document::Correction* card = document::findCorrection(*session_.document(), model_->idOf(row));
        if (card) showDropMenu({document::Clip::What::correction, *card}, model_->idOf(on), global);
    });
    connect(list_, &ItemList::textDropped, this, [this](const QMimeData* data, int on, QPoint global) {
        takeDropped(data, on < 0 ? 0 : model_->idOf(on), global);
    });
    connect(list_, &ItemList::removeWanted, this, [this](const QList<int>& rows) { remove(model_->idsOf(rows)); });
    connect(list_, &ItemList::menuWanted, this, &SequencePanel::showCardMenu);
    const auto refreshSoon = [this] { QMetaObject::invokeMethod(this, &SequencePanel::refresh, Qt::QueuedConnection); };
    connect(&session_, &Session::opened, this, refreshSoon);
    connect(&session_, &Session::threadColourChanged, this, refreshSoon);
    connect(&session_, &Session::documentChanged, this, refreshSoon);
    connect(&session_, &Session::selectionChanged, this, refreshSoon);
    connect(&session_, &Session::alsoSelectedChanged, this, refreshSoon);
    // The strength, in the middle of a drag.
    connect(&session_, &Session::pictureChanged, list_->viewport(), qOverload<>(&QWidget::update));
    connect(&pictures, &SmallPictures::changed, list_->viewport(), qOverload<>(&QWidget::update));
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
    menu->addAction(tr("From a starter…") + "\t" + keyText("starters"), this, &SequencePanel::openStarters);
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
    new_->setEnabled(session_.isOpen());
    model_->refresh();
    showSelection();
}

void SequencePanel::showSelection() {
    if (!session_.isOpen()) return;
    QList<int> rows;
    for (const document::Id id : session_.selectedCorrections()) rows.append(model_->rowOf(id));
    const int current = model_->rowOf(session_.selectedCorrection());
    if (rows.isEmpty()) rows.append(current);
    list_->select(rows, current);
    list_->scrollTo(model_->index(current, 0));
}

// The one worked on is the one chosen last that is still selected.
void SequencePanel::choose(const QList<int>& rows, int current) {
    if (!session_.isOpen()) return;
    const QList<document::Id> ids = model_->idsOf(rows);
    const document::Id last = model_->idOf(current);
    if (ids.isEmpty()) {
        if (rows.contains(0)) {
            session_.selectCorrections({}, 0);
        } else {
            showSelection();  // one is selected always
        }
        return;
    }
    const document::Id before = session_.selectedCorrection();
    session_.selectCorrections(ids, ids.contains(last) ? last : ids.contains(before) ? before : ids.back());
}

void SequencePanel::toggleSelected() {
    if (!session_.correction()) return;
    const bool on = !session_.correction()->enabled;
    session_.edit(on ? tr("switch correction on") : tr("switch correction off"), [&](const document::Document& d) {
        return withEach(d, session_.selectedCorrections(), [on](document::Correction& c) { c.enabled = on; });
    });
}

void SequencePanel::openNewMenu() {
    if (new_->isEnabled()) new_->showMenu();
}

void SequencePanel::openStarters() {
    openStartersSheet(session_, new_);
}

void SequencePanel::removeSelected() {
    remove(session_.selectedCorrections());
}

void SequencePanel::remove(const QList<document::Id>& ids) {
    if (!session_.isOpen() || ids.isEmpty()) return;
    const document::Correction* first = document::findCorrection(*session_.document(), ids.front());
    const QString name = first ? QString::fromStdString(first->name) : QString();
    session_.edit(ids.size() == 1 ? tr("remove correction") : tr("remove corrections"),
                  [&](const document::Document& d) {
                      auto next = std::make_shared<const document::Document>(d);
                      for (const document::Id id : ids) next = document::withoutCorrection(*next, id);
                      return next;
                  });
    session_.sayOfStep(ids.size() == 1 ? tr("Removed %1.").arg(name) : tr("Removed %1 corrections.").arg(ids.size()));
}

void SequencePanel::moveBefore(const QList<document::Id>& ids, int place) {
    if (!session_.isOpen()) return;
    const auto& all = session_.document()->corrections;
    if (ids.isEmpty() || place < 0 || place > static_cast<int>(all.size())) return;
    QList<document::Id> before, after;
    for (int i = 0; i < static_cast<int>(all.size()); ++i) {
        const document::Id id = all[static_cast<std::size_t>(i)]->id;
        if (!ids.contains(id)) (i < place ? before : after).append(id);
    }
    const QList<document::Id> order = before + ids + after;
    session_.edit(ids.size() == 1 ? tr("move correction") : tr("move corrections"), [&](const document::Document& d) {
        auto next = std::make_shared<const document::Document>(d);
        for (int i = 0; i < order.size(); ++i)
            next = document::withCorrectionMoved(*next, order[i], static_cast<std::size_t>(i));
        return next;
    });
}

void SequencePanel::rename() {
    list_->rename(model_->rowOf(session_.selectedCorrection()));
}

// A whole correction, as a card or a starter, dropped on a card: which of the two things it is made of is meant.
void SequencePanel::showDropMenu(const document::Clip& dropped, document::Id on, QPoint global) {
    const document::Correction* target = document::findCorrection(*session_.document(), on);
    if (!target) return;
    auto* menu = new QMenu(this);
    menu->setObjectName("drop-menu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const QString name = QString::fromStdString(target->name);
    menu->addAction(tr("Put its effect on %1").arg(name), this,
                    [this, dropped, on] { putOn(session_, on, dropped, document::Clip::What::effect); });
    menu->addAction(tr("Put its mask on %1").arg(name), this,
                    [this, dropped, on] { putOn(session_, on, dropped, document::Clip::What::mask); });
    menu->popup(global);
}

void SequencePanel::takeDropped(const QMimeData* data, document::Id on, QPoint global) {
    if (!session_.isOpen()) return;
    const auto clip = clipIn(session_, data);
    if (!clip) return session_.say(QString::fromStdString(clip.error().message));
    const bool isWhole = clip->what == document::Clip::What::correction;
    if (on != 0 && isWhole) return showDropMenu(*clip, on, global);
    if (on == 0 && !isWhole) return session_.say(tr("Drop it on the card of the correction that is to have it."));
    putOn(session_, on != 0 ? on : session_.selectedCorrection(), *clip, clip->what);
}

void SequencePanel::addMaskMenu(QMenu& menu, document::Id id) {
    QMenu* masks = menu.addMenu(tr("Copy mask to"));
    for (const auto& other : session_.document()->corrections) {
        if (other->id == id) continue;
        masks->addAction(QString::fromStdString(other->name), this, [this, id, to = other->id] {
            session_.edit(tr("copy mask"),
                          [&](const document::Document& d) { return document::withCopyOfMask(d, id, to); });
        });
    }
    masks->setEnabled(!masks->isEmpty());
}

// Its mask is kept within another's, from there on.
void SequencePanel::addInsideMenu(QMenu& menu, document::Id id) {
    QMenu* inside = menu.addMenu(tr("Work inside the mask of"));
    for (const auto& other : session_.document()->corrections) {
        if (other->id == id || !document::canBorrow(*session_.document(), id, other->id)) continue;
        inside->addAction(QString::fromStdString(other->name), this, [this, id, from = other->id] {
            session_.edit(tr("work inside another mask"),
                          [&](const document::Document& d) { return document::withMaskInside(d, id, from); });
        });
    }
    inside->setEnabled(!inside->isEmpty());
}

void SequencePanel::addThreadMenu(QMenu& menu) {
    QMenu* threads = menu.addMenu(tr("Thread colour"));
    for (int i = 0; i < static_cast<int>(colour::threadColours.size()); ++i) {
        QPixmap swatch(16, 16);
        swatch.fill(threadColour(i));
        const std::string_view label = colour::threadColours[static_cast<std::size_t>(i)].label;
        threads->addAction(swatch, words(label), this, [this, i] {
            session_.edit(tr("change thread colour"), [&](const document::Document& d) {
                return withEach(d, session_.selectedCorrections(), [=](document::Correction& c) {
                    c.threadColour = i;
                    c.threadColourChosen = true;
                });
            });
        });
    }
}

void SequencePanel::showCardMenu(QPoint global) {
    const document::Correction* correction = session_.correction();
    if (!correction) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Rename") + "\tF2", this, &SequencePanel::rename);
    menu->addAction(withKeyOf(tr("Duplicate"), "duplicate"), &session_, &Session::duplicateCorrections);
    menu->addAction(withKeyOf(correction->enabled ? tr("Switch off") : tr("Switch on"), "on-off"), this,
                    &SequencePanel::toggleSelected);
    menu->addAction(withKeyOf(tr("Counterpart"), "counterpart"), &session_, &Session::goToCounterpart);
    const bool isHeld = document::bracketOf(*session_.document(), *correction);
    menu->addAction(withKeyOf(isHeld ? tr("Take bracket away") : tr("Bracket"), "bracket"), &session_,
                    &Session::turnBracket);
    menu->addSeparator();
    menu->addAction(withKeyOf(tr("Copy effect"), "copy"), this, [this] { copyEffect(session_); });
    menu->addAction(withKeyOf(tr("Copy mask"), "copy-mask"), this, [this] { copyMask(session_); });
    menu->addAction(withKeyOf(tr("Paste"), "paste"), this, [this] { paste(session_); });
    addMaskMenu(*menu, correction->id);
    addInsideMenu(*menu, correction->id);
    addThreadMenu(*menu);
    menu->addSeparator();
    menu->addAction(withKeyOf(tr("Remove"), "remove"), this, &SequencePanel::removeSelected);
    menu->popup(global);
}

}  // namespace dimhem::ui
