#include "ui/panel/starters_menu.h"

#include "ui/panel/starters_dialog.h"
#include "ui/session/key_table.h"
#include "ui/session/starter_set.h"

namespace dimhem::ui {

StartersMenu::StartersMenu(Session& session, QWidget* parent) : QMenu(tr("Starters"), parent), session_(session) {
    setToolTipsVisible(true);
    setObjectName("starters");
    connect(this, &QMenu::aboutToShow, this, &StartersMenu::fill);
}

void StartersMenu::fill() {
    clear();
    QAction* save = addAction(tr("Save the selected correction as a starter"), this, &StartersMenu::saveSelected);
    save->setEnabled(session_.isOpen() && session_.correction());
    addAction(tr("All starters…"), this, &StartersMenu::manage);
}

void StartersMenu::saveSelected() {
    if (!session_.isOpen() || !session_.correction()) return;
    const document::Starter starter =
        document::starterOf(*session_.correction(), session_.brush(), session_.renderer().photo().size());
    const auto saved = task::addStarter(ownStartersFolder(), starter);
    const QString name = QString::fromStdString(starter.name);
    session_.say(saved ? tr("\u201c%1\u201d is saved as a starter; %2 finds it.").arg(name, keyText("starters"))
                       : QString::fromStdString(saved.error().message));
}

void StartersMenu::manage() {
    auto* dialog = new StartersDialog(session_, parentWidget());
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->show();
}

}  // namespace dimhem::ui
