#include "ui/panel/adjustment_menu.h"

#include <QMenu>
#include <algorithm>

#include "core/document/edits.h"
#include "ui/panel/kept_settings.h"
#include "ui/session/clipboard.h"
#include "ui/session/key_table.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

void addPlaces(QMenu& menu, Session& session, document::Id adjustment, const QString& name) {
    const auto& all = session.correction()->adjustments;
    const auto at = std::ranges::find(all, adjustment, &document::AdjustmentUse::id) - all.begin();
    const auto moveTo = [&session, adjustment, name](std::ptrdiff_t place) {
        session.edit(QObject::tr("move adjustment: %1").arg(name), [&](const document::Document& d) {
            return document::withAdjustmentMoved(d, session.selectedCorrection(), adjustment,
                                                 static_cast<std::size_t>(place));
        });
    };
    menu.addAction(QObject::tr("Act earlier"), &session, [moveTo, at] { moveTo(at - 1); })->setEnabled(at > 0);
    menu.addAction(QObject::tr("Act later"), &session, [moveTo, at] { moveTo(at + 1); })
        ->setEnabled(at + 1 < static_cast<std::ptrdiff_t>(all.size()));
}

}  // namespace

QMenu* adjustmentMenu(Session& session, document::Id adjustment, QWidget* parent) {
    const document::AdjustmentUse& use = *document::findAdjustment(*session.correction(), adjustment);
    const QString name = words(use.kind->label);
    const auto change = [&session, adjustment](const QString& step,
                                               const std::function<void(document::AdjustmentUse&)>& change) {
        session.edit(step, [&](const document::Document& d) {
            return document::withAdjustment(d, session.selectedCorrection(), adjustment, change);
        });
    };
    auto* menu = new QMenu(parent);
    menu->setObjectName("adjustment-menu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(QObject::tr("Copy this adjustment"), &session,
                    [&session, adjustment] { copyAdjustment(session, adjustment); });
    menu->addAction(QObject::tr("Paste") + "\t" + keyText("paste"), &session, [&session] { paste(session); });
    menu->addSeparator();
    menu->addAction(use.enabled ? QObject::tr("Switch off") : QObject::tr("Switch on"), &session,
                    [change, name, on = !use.enabled] {
                        change(on ? QObject::tr("switch on: %1").arg(name) : QObject::tr("switch off: %1").arg(name),
                               [on](document::AdjustmentUse& u) { u.enabled = on; });
                    });
    menu->addAction(QObject::tr("Begin anew"), &session, [change, name, kind = use.kind] {
        change(QObject::tr("begin anew: %1").arg(name),
               [kind](document::AdjustmentUse& u) { u.settings = adjust::startingSettings(*kind); });
    });
    addKeptSettings(*menu, session, adjustment);
    addPlaces(*menu, session, adjustment, name);
    menu->addSeparator();
    menu->addAction(QObject::tr("Remove"), &session, [&session, adjustment, name] {
        session.edit(QObject::tr("remove adjustment: %1").arg(name), [&](const document::Document& d) {
            return document::withoutAdjustment(d, session.selectedCorrection(), adjustment);
        });
        session.sayOfStep(QObject::tr("Removed the adjustment %1.").arg(name));
    });
    return menu;
}

}  // namespace dimhem::ui
