// The window's menu: what has no button, and what is rarely wanted; and the menu of the photo.
#include <QAccessible>
#include <QApplication>
#include <QFileInfo>
#include <QMenu>
#include <QMessageBox>
#include <algorithm>

#include "core/document/edits.h"
#include "ui/main_window.h"
#include "ui/panel/hem_line.h"
#include "ui/panel/preferences_dialog.h"
#include "ui/part/shape_numbers.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

namespace {

constexpr int mostSteps = 100;  // offered to go back to

}  // namespace

void MainWindow::fillMenu() {
    const auto add = [this](std::initializer_list<const char*> ids) {
        for (const char* id : ids) menu_.addAction(actions_.value(id));
    };
    menu_.setToolTipsVisible(true);
    add({"open"});
    QMenu* recent = menu_.addMenu(tr("Recent files"));
    connect(recent, &QMenu::aboutToShow, this, [this, recent] { fillRecent(recent); });
    add({"close"});
    menu_.addSeparator();
    add({"save", "save-as", "export"});
    menu_.addSeparator();
    add({"undo", "redo"});
    QMenu* steps = menu_.addMenu(tr("Steps"));
    connect(steps, &QMenu::aboutToShow, this, [this, steps] { fillSteps(steps); });
    add({"duplicate", "remove"});
    menu_.addSeparator();
    add({"panels", "inset", "second-view", "surround", "full-screen"});
    menu_.addSeparator();
    add({"preferences", "help"});
    menu_.addAction(tr("About Dim Hem"), this, &MainWindow::about);
    add({"quit"});
}

void MainWindow::fillRecent(QMenu* menu) {
    menu->clear();
    menu->setToolTipsVisible(true);
    for (const QString& path : DocumentJobs::recentFiles()) {
        QAction* action = menu->addAction(QFileInfo(path).fileName(), this, [this, path] { openFile(path); });
        action->setToolTip(path);
    }
    if (menu->isEmpty()) menu->addAction(tr("None yet"))->setEnabled(false);
}

// The newest steps first, the one that counts now marked; those above it were undone.
void MainWindow::fillSteps(QMenu* menu) {
    menu->clear();
    const QStringList names = session_.stepNames();
    for (int i = static_cast<int>(names.size()) - 1, shown = 0; i >= 0 && shown < mostSteps; --i, ++shown) {
        QAction* action = menu->addAction(names[i], this, [this, i] { session_.goToStep(i); });
        action->setCheckable(true);
        action->setChecked(i == session_.step());
    }
    if (menu->isEmpty()) menu->addAction(tr("No photo is open"))->setEnabled(false);
}

QAction* MainWindow::addKeyEntry(QMenu& menu, const QString& words, const QString& id) {
    return menu.addAction(words + "\t" + keyText(id), this, [this, id] { keys_.act(id); });
}

void MainWindow::addProbeEntries(QMenu& menu, QPoint global, base::Point place) {
    const auto probe = canvas_->probeAt(place);
    if (!probe) {
        menu.addAction(tr("A probe here") + "\t" + keyText("drop-probe"), this, [this, place] { probes_.add(place); });
        return;
    }
    menu.addAction(tr("Probe %1 in numbers…").arg(*probe + 1), this,
                   [this, at = *probe, global] { askForNumbersOfProbe(session_, at, global, this); });
    menu.addAction(tr("Remove probe %1").arg(*probe + 1), this, [this, at = *probe] {
        session_.edit(tr("remove probe"), [at](const document::Document& d) { return document::withoutProbe(d, at); });
    });
}

void MainWindow::addPartEntries(QMenu& menu, QPoint global) {
    const mask::Part* part = session_.part();
    if (!part) return;
    if (paintsNow()) {
        QAction* removes =
            menu.addAction(tr("The brush removes") + "\t" + keyText("removes"), this, &MainWindow::toggleRemoves);
        removes->setCheckable(true);
        removes->setChecked(session_.brush().removes);
        QAction* holds =
            menu.addAction(tr("The brush holds edges") + "\t" + keyText("holds"), this, &MainWindow::toggleHolds);
        holds->setCheckable(true);
        holds->setChecked(session_.brush().holds);
    } else if (!part->shape->isZone()) {
        const bool takes = part->combine == mask::Combine::subtract;
        menu.addAction((takes ? tr("The part adds again") : tr("The part takes away")) + "\t" + keyText("removes"),
                       this, &MainWindow::turnPart);
    }
    if (!part->shape->isZone()) addKeyEntry(menu, tr("Invert the part"), "invert");
    if (hasNumbers(session_))
        menu.addAction(tr("The part in numbers…"), this, [this, global] { askForNumbers(session_, global, this); });
}

// What can be done where it was opened, to what is worked on, and to how it is looked at; each with its key.
void MainWindow::showPhotoMenu(QPoint global, base::Point place) {
    auto* menu = new QMenu(this);
    menu->setObjectName("photo-menu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](const QString& words, const char* id) { addKeyEntry(*menu, words, id); };
    if (const document::Correction* correction = session_.correction()) {
        addPartEntries(*menu, global);
        add(tr("Leave out…"), "leave-out");
        add(correction->enabled ? tr("Switch the correction off") : tr("Switch the correction on"), "on-off");
        menu->addSeparator();
        add(tr("Copy effect"), "copy");
        add(tr("Copy mask"), "copy-mask");
        add(tr("Paste"), "paste");
        add(tr("Counterpart"), "counterpart");
    } else {
        add(tr("New correction…"), "new-correction");
        add(tr("Paste"), "paste");
    }
    menu->addSeparator();
    addProbeEntries(*menu, global, place);
    add(session_.look() == Look::split ? tr("Result alone") : tr("Split"), "split");
    add(tr("Next mask view"), "next-mask-view");
    add(session_.wantsGrips() ? tr("Hide grips") : tr("Show grips"), "grips");
    menu->addSeparator();
    add(tr("Fit"), "fit");
    add(tr("1:1"), "actual-size");
    add(tr("Closer to the part or the mask"), "zoom-to");
    menu->popup(global);
}

void MainWindow::showNumbers(QPoint global, base::Point place) {
    if (const auto probe = canvas_->probeAt(place)) {
        askForNumbersOfProbe(session_, *probe, global, this);
    } else {
        askForNumbers(session_, global, this);
    }
}

void MainWindow::sayHem() {
    const QString figures = findChild<HemLine*>()->inWords();
    session_.say(figures);
    QAccessibleEvent alert(this, QAccessible::Alert);
    canvas_->setAccessibleDescription(figures);
    QAccessible::updateAccessibility(&alert);
}

void MainWindow::about() {
    auto* box = new QMessageBox(
        QMessageBox::NoIcon, tr("About Dim Hem"),
        tr("Dim Hem %1\n\nCorrects part of a photo without the correction spilling past its edge. The photo's file is "
           "never changed.\n\nThe font is Inter (SIL Open Font License), the icons are Lucide (ISC License).")
            .arg(QApplication::applicationVersion()),
        QMessageBox::Close, this);
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->open();
}

void MainWindow::preferences() {
    auto* dialog = new PreferencesDialog(journal_.folder(), session_.found(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &PreferencesDialog::surroundChanged, this, &MainWindow::showSurround);
    connect(dialog, &PreferencesDialog::ceilingChanged, this,
            [this] { session_.ceiling()->setBytes(std::size_t(ceilingMiB()) << 20); });
    connect(dialog, &PreferencesDialog::foundLimitChosen, this, [this](quint64 bytes) {
        session_.background().run(
            this, [found = session_.found(), bytes] { found->setMostBytes(bytes); }, [](const auto&) {});
    });
    dialog->open();
}

}  // namespace dimhem::ui
