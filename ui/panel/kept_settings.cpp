#include "ui/panel/kept_settings.h"

#include <QLineEdit>
#include <QMenu>
#include <QWidgetAction>

#include "core/document/edits.h"
#include "ui/session/starter_set.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

std::vector<task::StarterFile> keptFor(const adjust::AdjustmentKind& kind) {
    std::vector<task::StarterFile> kept = task::startersIn(keptSettingsFolder());
    std::erase_if(kept, [&](const task::StarterFile& file) {
        const auto& adjustments = file.starter.correction->adjustments;
        return adjustments.size() != 1 || adjustments[0].kind != &kind;
    });
    return kept;
}

void say(Session& session, const base::Result<void>& done, const QString& sentence) {
    done ? session.say(sentence) : session.warn(done.error());
}

// In place of one of that name.
void keep(Session& session, const document::AdjustmentUse& use, const QString& name) {
    document::Correction holder;
    holder.adjustments = {use};
    document::Starter starter = document::starterOf(holder, {}, {});
    starter.name = name.toStdString();
    base::Result<void> done;
    const auto kept = keptFor(*use.kind);
    const auto same = std::ranges::find(kept, starter.name, [](const task::StarterFile& f) { return f.starter.name; });
    if (same != kept.end()) {
        done = task::writeStarter(same->path, starter, {});
    } else if (const auto added = task::addStarter(keptSettingsFolder(), starter); !added) {
        done = tl::unexpected(added.error());
    }
    say(session, done, QObject::tr("These settings are kept as \u201c%1\u201d.").arg(name));
}

void forget(Session& session, const task::StarterFile& file) {
    const auto removed = task::removeStarter(file.path);
    if (!removed) return session.warn(removed.error());
    session.say(
        QObject::tr("The kept settings \u201c%1\u201d are deleted.").arg(QString::fromStdString(file.starter.name)),
        QObject::tr("Put them back"), [file, &session] {
            const auto back = task::writeStarter(file.path, file.starter, {});
            if (!back) session.warn(back.error());
        });
}

// What the adjustment has measured in this photo, or marked on it, stays.
void put(Session& session, document::Id adjustment, const task::StarterFile& file) {
    const adjust::Settings& kept = file.starter.correction->adjustments[0].settings;
    session.edit(QObject::tr("kept settings: %1").arg(QString::fromStdString(file.starter.name)),
                 [&](const document::Document& d) {
                     return document::withAdjustment(d, session.selectedCorrection(), adjustment,
                                                     [&](document::AdjustmentUse& use) {
                                                         adjust::Settings next = kept;
                                                         for (std::size_t i = 0; i < use.kind->tables.size(); ++i) {
                                                             const adjust::TableSpec& table = use.kind->tables[i];
                                                             if (table.measured || table.ofThisPhoto)
                                                                 next.tables[i] = use.settings.tables[i];
                                                         }
                                                         use.settings = std::move(next);
                                                     });
                 });
}

void addNameField(QMenu& menu, Session& session, const document::AdjustmentUse& use) {
    auto* name = new QLineEdit(&menu);
    name->setObjectName("keep-settings");
    name->setPlaceholderText(QObject::tr("Keep these as…"));
    name->setAccessibleName(QObject::tr("Keep these settings by name"));
    name->setToolTip(QObject::tr("Type a name; Return keeps the settings for other adjustments of this kind."));
    QObject::connect(name, &QLineEdit::returnPressed, &session, [&session, name, use, &menu] {
        const QString typed = name->text().trimmed();
        if (typed.isEmpty()) return;
        keep(session, use, typed);
        for (QWidget* up = &menu; qobject_cast<QMenu*>(up); up = up->parentWidget()) up->close();
    });
    auto* action = new QWidgetAction(&menu);
    action->setDefaultWidget(name);
    menu.addAction(action);
}

}  // namespace

void addKeptSettings(QMenu& menu, Session& session, document::Id adjustment) {
    const document::AdjustmentUse& use = *document::findAdjustment(*session.correction(), adjustment);
    QMenu* entry = menu.addMenu(QObject::tr("Kept settings"));
    entry->setObjectName("kept-settings");
    const std::vector<task::StarterFile> kept = keptFor(*use.kind);
    for (const task::StarterFile& file : kept) {
        entry->addAction(QString::fromStdString(file.starter.name), &session,
                         [&session, adjustment, file] { put(session, adjustment, file); });
    }
    if (!kept.empty()) entry->addSeparator();
    addNameField(*entry, session, use);
    if (kept.empty()) return;
    QMenu* remove = entry->addMenu(QObject::tr("Delete"));
    for (const task::StarterFile& file : kept) {
        remove->addAction(QString::fromStdString(file.starter.name), &session,
                          [&session, file] { forget(session, file); });
    }
}

}  // namespace dimhem::ui
