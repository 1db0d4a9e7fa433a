#include "ui/panel/starters_menu.h"

#include "ui/panel/starters_dialog.h"
#include "ui/session/starter_set.h"

namespace dimhem::ui {

StartersMenu::StartersMenu(Session& session, QWidget* parent) : QMenu(tr("From a starter"), parent), session_(session) {
    setToolTipsVisible(true);
    setObjectName("starters");
    connect(this, &QMenu::aboutToShow, this, &StartersMenu::fill);
}

void StartersMenu::fill() {
    clear();
    list(shippedStartersFolder());
    addSeparator();
    list(ownStartersFolder());
    addSeparator();
    QAction* save = addAction(tr("Save the selected correction as a starter"), this, &StartersMenu::saveSelected);
    save->setEnabled(session_.isOpen() && session_.correction());
    addAction(tr("All starters…"), this, &StartersMenu::manage);
}

void StartersMenu::list(const std::filesystem::path& folder) {
    for (const task::StarterFile& file : task::startersIn(folder)) {
        QAction* action = addAction(QString::fromStdString(file.starter.name));
        action->setToolTip(QString::fromStdString(file.starter.about));
        connect(action, &QAction::triggered, this, [this, starter = file.starter] {
            if (session_.isOpen()) session_.addFromStarter(starter);
        });
    }
}

void StartersMenu::saveSelected() {
    if (!session_.isOpen() || !session_.correction()) return;
    const document::Starter starter =
        document::starterOf(*session_.correction(), session_.brush(), session_.renderer().photo().size());
    const auto saved = task::addStarter(ownStartersFolder(), starter);
    const QString name = QString::fromStdString(starter.name);
    session_.say(saved ? tr("\u201c%1\u201d is saved as a starter; find it under New, From a starter.").arg(name)
                       : QString::fromStdString(saved.error().message));
}

void StartersMenu::manage() {
    auto* dialog = new StartersDialog(session_, parentWidget());
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->show();
}

}  // namespace dimhem::ui
