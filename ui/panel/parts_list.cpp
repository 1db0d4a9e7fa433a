#include "ui/panel/parts_list.h"

#include <QMenu>
#include <QVBoxLayout>

#include "core/document/edits.h"
#include "ui/control/icon.h"
#include "ui/control/item_list.h"
#include "ui/panel/part_delegate.h"
#include "ui/panel/parts_model.h"
#include "ui/session/clipboard.h"
#include "ui/session/key_table.h"
#include "ui/session/several.h"

namespace dimhem::ui {

namespace {

constexpr int hoverMs = 350;  // a pointer on its way elsewhere shows nothing

}  // namespace

PartsList::PartsList(Session& session, const SmallPictures& pictures, QWidget* parent)
    : QWidget(parent),
      session_(session),
      model_(new PartsModel(session, pictures, this)),
      list_(new ItemList(Qt::Vertical, this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(list_);
    list_->setObjectName("parts");
    list_->setAccessibleName(tr("Parts of the mask, in the order in which they combine"));
    list_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setModel(model_);
    auto* delegate = new PartDelegate(list_);
    list_->setItemDelegate(delegate);
    connect(list_, &ItemList::chosen, this, &PartsList::choose);
    connect(list_, &ItemList::moveWanted, this,
            [this](const QList<int>& rows, int before) { moveBefore(model_->idsOf(rows), before); });
    connect(list_, &ItemList::removeWanted, this, [this](const QList<int>& rows) { remove(model_->idsOf(rows)); });
    connect(list_, &ItemList::menuWanted, this, &PartsList::showMenu);
    connect(delegate, &PartDelegate::combineWanted, this,
            [this](const QModelIndex& index, QPoint global) { showCombineMenu(index.row(), global); });
    hover_.setSingleShot(true);
    hover_.setInterval(hoverMs);
    connect(&hover_, &QTimer::timeout, this, [this] { session_.setHoveredPart(pointedAt_); });
    connect(list_, &ItemList::pointedAt, this, [this](int row) {
        const mask::PartId part = model_->idOf(row);
        if (part == pointedAt_) return;
        pointedAt_ = part;
        hover_.stop();
        session_.setHoveredPart(0);
        if (part) hover_.start();
    });
    connect(&session_, &Session::alsoSelectedChanged, this, &PartsList::refresh);
    connect(&pictures, &SmallPictures::changed, list_->viewport(), qOverload<>(&QWidget::update));
}

void PartsList::refresh() {
    model_->refresh();
    list_->setFixedHeight(list_->wholeLength() + 1);
    QList<int> rows;
    for (const mask::PartId id : session_.selectedParts()) rows.append(model_->rowOf(id));
    if (model_->rowCount() > 0) list_->select(rows, std::max(0, model_->rowOf(session_.selectedPart())));
}

void PartsList::choose(const QList<int>& rows, int current) {
    const QList<mask::PartId> ids = model_->idsOf(rows);
    const mask::PartId last = model_->idOf(current), before = session_.selectedPart();
    if (ids.isEmpty()) return refresh();  // one is selected always
    session_.selectParts(ids, ids.contains(last) ? last : ids.contains(before) ? before : ids.back());
}

void PartsList::moveBefore(const QList<mask::PartId>& ids, int place) {
    const document::Correction* correction = session_.correction();
    if (!correction || ids.isEmpty()) return;
    QList<mask::PartId> before, after;
    for (int i = 0; i < model_->rowCount(); ++i) {
        const mask::PartId id = model_->idOf(i);
        if (!ids.contains(id)) (i < place ? before : after).append(id);
    }
    const QList<mask::PartId> order = before + ids + after;
    session_.edit(ids.size() == 1 ? tr("move part") : tr("move parts"), [&](const document::Document& d) {
        auto next = std::make_shared<const document::Document>(d);
        for (int i = 0; i < order.size(); ++i)
            next = document::withPartMoved(*next, correction->id, order[i], static_cast<std::size_t>(i));
        return next;
    });
}

void PartsList::remove(const QList<mask::PartId>& ids) {
    if (!session_.correction() || ids.isEmpty()) return;
    session_.edit(ids.size() == 1 ? tr("remove part") : tr("remove parts"), [&](const document::Document& d) {
        auto next = std::make_shared<const document::Document>(d);
        for (const mask::PartId id : ids) next = document::withoutPart(*next, session_.selectedCorrection(), id);
        return next;
    });
    session_.sayOfStep(ids.size() == 1 ? tr("Removed a part of the mask.")
                                       : tr("Removed %1 parts of the mask.").arg(ids.size()));
}

void PartsList::copyTo(document::Id correction) {
    QList<mask::PartId> copies;
    session_.edit(tr("copy part"), [&](const document::Document& d) {
        auto next = std::make_shared<const document::Document>(d);
        for (const mask::PartId id : session_.selectedParts()) {
            const document::Added added =
                document::withCopyOfPart(*next, session_.selectedCorrection(), id, correction);
            next = added.document;
            if (added.id) copies.append(added.id);
        }
        return next;
    });
    if (!copies.isEmpty() && correction == session_.selectedCorrection()) session_.selectParts(copies, copies.front());
}

void PartsList::addCombineActions(QMenu& menu, int row) {
    const QModelIndex index = model_->index(row, 0);
    const int now = index.data(PartsModel::combineRole).toInt();
    for (const CombineChoice& choice : combineChoices()) {
        QAction* action = menu.addAction(icon(choice.icon), tr("%1: %2").arg(choice.label, choice.tip));
        action->setCheckable(true);
        action->setChecked(now == static_cast<int>(choice.combine));
        connect(action, &QAction::triggered, this, [this, id = model_->idOf(row), choice] {
            model_->setData(model_->index(model_->rowOf(id), 0), static_cast<int>(choice.combine),
                            PartsModel::combineRole);
        });
    }
}

void PartsList::showCombineMenu(int row, QPoint global) {
    auto* menu = new QMenu(this);
    menu->setObjectName("combine");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    addCombineActions(*menu, row);
    menu->popup(global);
}

void PartsList::showMenu(QPoint global) {
    const mask::Part* part = session_.part();
    if (!part) return;
    const int row = model_->rowOf(part->id);
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Rename") + "\tF2", this, [this, row] { list_->rename(row); });
    if (!part->shape->isZone()) {
        addCombineActions(*menu->addMenu(tr("Combine")), row);
        menu->addAction(tr("Invert") + "\t" + keyText("invert"), this, [this, row, flipped = part->flipped] {
            model_->setData(model_->index(row, 0), !flipped, PartsModel::flippedRole);
        });
    }
    menu->addAction(part->enabled ? tr("Switch off") : tr("Switch on"), this, [this, row, on = part->enabled] {
        model_->setData(model_->index(row, 0), on ? Qt::Unchecked : Qt::Checked, Qt::CheckStateRole);
    });
    menu->addAction(tr("Move up") + "\tAlt+Up", this,
                    [this, row] { moveBefore({model_->idOf(row)}, std::max(0, row - 1)); });
    menu->addAction(tr("Move down") + "\tAlt+Down", this, [this, row] { moveBefore({model_->idOf(row)}, row + 2); });
    menu->addAction(tr("Copy") + "\t" + keyText("copy"), this, [this] { copyParts(session_); });
    menu->addAction(tr("Paste") + "\t" + keyText("paste"), this, [this] { paste(session_); });
    menu->addAction(tr("Duplicate"), this, [this] { copyTo(session_.selectedCorrection()); });
    QMenu* others = menu->addMenu(tr("Copy to"));
    for (const auto& correction : session_.document()->corrections) {
        if (correction->id == session_.selectedCorrection()) continue;
        others->addAction(QString::fromStdString(correction->name), this, [this, id = correction->id] { copyTo(id); });
    }
    others->setEnabled(!others->isEmpty());
    menu->addSeparator();
    menu->addAction(tr("Remove") + "\tDelete", this, [this] { remove(session_.selectedParts()); });
    menu->popup(global);
}

}  // namespace dimhem::ui
