#include "ui/panel/compare_menu.h"

#include <QInputDialog>
#include <algorithm>

#include "core/document/edits.h"
#include "ui/session/key_table.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

namespace {

constexpr double turnDeg = 15;

QString stateName(const document::KeptState& state) {
    return QString::fromStdString(state.name);
}

}  // namespace

CompareMenu::CompareMenu(Session& session, QWidget* parent) : QMenu(parent), session_(session) {
    setToolTipsVisible(true);
    connect(this, &QMenu::aboutToShow, this, &CompareMenu::fill);
}

QString CompareMenu::nameOf(const Session& session) {
    if (!session.isOpen()) return tr("the photo");
    switch (session.against().what) {
        case Against::What::photo: break;
        case Against::What::withoutThis: return tr("without this");
        case Against::What::saved: return tr("as saved");
        case Against::What::state: {
            const auto& states = session.document()->states;
            if (session.against().state < states.size()) return stateName(states[session.against().state]);
        }
    }
    return tr("the photo");
}

void CompareMenu::addChoice(QMenu* menu, const QString& text, const QString& tip, const Against& against) {
    QAction* action = menu->addAction(text, this, [this, against] { session_.setAgainst(against); });
    action->setToolTip(tip);
    action->setCheckable(true);
    action->setChecked(session_.against() == against);
}

void CompareMenu::fill() {
    clear();
    if (!session_.isOpen()) {
        addAction(tr("No photo is open"))->setEnabled(false);
        return;
    }
    addSection(tr("Held against"));
    addChoice(this, tr("The photo as it was"), tr("With all corrections off"), {Against::What::photo, 0});
    addChoice(this, tr("Without the selected correction"), tr("All but this one"), {Against::What::withoutThis, 0});
    addChoice(this, tr("The document as saved"), tr("As it was last saved, or opened"), {Against::What::saved, 0});
    const auto& states = session_.document()->states;
    for (std::size_t i = 0; i < states.size(); ++i)
        addChoice(this, stateName(states[i]), tr("A state that you kept"), {Against::What::state, i});
    fillStates();
    addSeparator();
    addAction(withKey(tr("Swap the sides"), "swap-sides"), this, &CompareMenu::swapWanted);
    addAction(withKey(tr("Turn the line"), "turn-split"), this, [this] { Q_EMIT turnWanted(turnDeg); });
    QMenu* rates = addMenu(tr("Blink every"));
    for (const int ms : blinkRatesMs) {
        QAction* rate = rates->addAction(tr("%1 s").arg(ms / 1000.0, 0, 'f', 1), this, [ms] { setBlinkMs(ms); });
        rate->setCheckable(true);
        rate->setChecked(ms == blinkMs());
    }
    addSeparator();
    QAction* byAll =
        addAction(tr("Show losses of all corrections"), this, [this](bool on) { session_.setLosesByAll(on); });
    byAll->setToolTip(withKey(tr("Else of the selected one: what is newly clipped, blocked or too strong, while the "
                                 "key is held"),
                              "lost"));
    byAll->setCheckable(true);
    byAll->setChecked(session_.losesByAll());
}

void CompareMenu::fillStates() {
    addSeparator();
    const auto& states = session_.document()->states;
    QAction* keep = addAction(withKey(tr("Keep this state"), "keep-state"), this, &CompareMenu::keepState);
    keep->setEnabled(states.size() < document::mostStates);
    if (states.empty()) return;
    QMenu* shown = addMenu(tr("In the result's place"));
    const auto addShown = [&](const QString& text, std::optional<std::size_t> state) {
        QAction* action = shown->addAction(text, this, [this, state] { session_.setShownState(state); });
        action->setCheckable(true);
        action->setChecked(session_.shownState() == state);
    };
    addShown(tr("The result"), std::nullopt);
    for (std::size_t i = 0; i < states.size(); ++i) addShown(stateName(states[i]), i);
    QMenu* back = addMenu(tr("Go back to"));
    QMenu* rename = addMenu(tr("Rename"));
    QMenu* drop = addMenu(tr("Remove"));
    for (std::size_t i = 0; i < states.size(); ++i) {
        back->addAction(stateName(states[i]), this, [this, i, name = stateName(states[i])] {
            session_.edit(tr("go back to: %1").arg(name),
                          [i](const document::Document& d) { return document::withStateTaken(d, i); });
            session_.sayOfStep(tr("The corrections are those of %1 again.").arg(name));
        });
        rename->addAction(stateName(states[i]), this, [this, i] { askForName(i); });
        drop->addAction(stateName(states[i]), this, [this, i, name = stateName(states[i])] {
            session_.setAgainst({});
            session_.edit(tr("remove state"),
                          [i](const document::Document& d) { return document::withoutState(d, i); });
            session_.sayOfStep(tr("Removed the state %1.").arg(name));
        });
    }
}

void CompareMenu::askForName(std::size_t index) {
    auto* dialog = new QInputDialog(window());
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(tr("Rename the state"));
    dialog->setLabelText(tr("Name of the kept state"));
    dialog->setTextValue(stateName(session_.document()->states[index]));
    connect(dialog, &QInputDialog::textValueSelected, this, [this, index](const QString& name) {
        if (!session_.isOpen() || name.trimmed().isEmpty()) return;
        session_.edit(tr("rename state"), [&](const document::Document& d) {
            return document::withStateRenamed(d, index, name.trimmed().toStdString());
        });
    });
    dialog->open();
}

void CompareMenu::keepState() {
    if (!session_.isOpen()) return;
    const auto& states = session_.document()->states;
    if (states.size() >= document::mostStates) {
        session_.say(tr("There are four kept states, as many as there can be: remove one first."));
        return;
    }
    QString name;
    const auto isTaken = [&] {
        return std::ranges::any_of(states, [&](const document::KeptState& s) { return stateName(s) == name; });
    };
    for (int n = 1; name.isEmpty() || isTaken(); ++n) name = tr("State %1").arg(n);
    session_.edit(tr("keep state"),
                  [&](const document::Document& d) { return document::withStateKept(d, name.toStdString()); });
    session_.sayOfStep(tr("Kept as %1.").arg(name));
}

}  // namespace dimhem::ui
