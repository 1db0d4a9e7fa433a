// What the window's keys do.
#include <QAbstractButton>
#include <QApplication>
#include <QKeyEvent>
#include <QSettings>
#include <algorithm>
#include <cmath>

#include "core/document/edits.h"
#include "core/mask/region.h"
#include "core/mask/registry.h"
#include "ui/canvas/second_view.h"
#include "ui/control/icon.h"
#include "ui/main_window.h"
#include "ui/panel/compare_menu.h"
#include "ui/panel/help_panel.h"
#include "ui/panel/look_bar.h"
#include "ui/panel/notes_line.h"
#include "ui/panel/photo_line.h"
#include "ui/panel/sequence_panel.h"
#include "ui/panel/what_panel.h"
#include "ui/panel/where_panel.h"
#include "ui/part/limit.h"
#include "ui/session/clipboard.h"
#include "ui/session/part_key.h"
#include "ui/session/preferences.h"
#include "ui/session/several.h"
#include "ui/text/words.h"

namespace dimhem::ui {

QAction* MainWindow::makeAction(const QString& id, const QString& name, const QString& iconName,
                                std::function<void()> act) {
    auto* action = new QAction(name, this);
    if (!iconName.isEmpty()) action->setIcon(icon(iconName));
    connect(action, &QAction::triggered, this, act);
    keys_.on(id, action);
    actions_[id] = action;
    return action;
}

void MainWindow::makeActions() {
    makeAction("open", tr("Open…"), "folder-open", [this] { files_.chooseAndOpen(); });
    makeAction("save", tr("Save"), "save", [this] { files_.save(); });
    makeAction("save-as", tr("Save as…"), {}, [this] { files_.saveAs(); });
    makeAction("export", tr("Export…"), "image-down", [this] { files_.exportPicture(); });
    makeAction("close", tr("Close photo"), {}, [this] { files_.closePhoto(); });
    makeAction("quit", tr("Quit"), {}, [this] { close(); });
    makeAction("undo", tr("Undo"), "undo-2", [this] { session_.undo(); });
    makeAction("redo", tr("Redo"), "redo-2", [this] { session_.redo(); });
    makeAction("duplicate", tr("Duplicate correction"), {}, [this] { session_.duplicateCorrections(); });
    makeAction("remove", tr("Remove correction"), {}, [this] {
        // What is in hand on the photo is nearer than its correction.
        if (!canvas_->cancelGesture()) sequence_->removeSelected();
    });
    makeAction("fit", tr("Fit"), {}, [this] { canvas_->fit(); });
    makeAction("actual-size", tr("1:1"), {}, [this] { canvas_->actualSize(); });
    makeAction("full-screen", tr("Full screen"), {}, [this] { isFullScreen() ? showNormal() : showFullScreen(); });
    makeAction("panels", tr("Hide or show panels"), {}, [this] { showPanels(!showsPanels()); });
    makeAction("surround", tr("Next surround"), {}, [this] { nextSurround(); });
    makeAction("inset", tr("Small whole photo on or off"), {}, [this] { toggleInset(); });
    makeAction("second-view", tr("Second view"), {}, [this] { toggleSecondView(); });
    makeAction("help", tr("Help and keys"), {}, [this] { help_->toggleFor(QApplication::focusWidget()); });
    makeAction("preferences", tr("Preferences"), {}, [this] { preferences(); });
}

void MainWindow::takeUpKeys() {
    keys_.takeUpKeys();
    refreshKeyTips(this);
    updateActions();
}

void MainWindow::makeKeys() {
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        keys_.on("part/" + idText(kind->id), [this, kind] { session_.addPart(*kind); });
        keys_.on("take-away/" + idText(kind->id), [this, kind] { session_.addPartTakingAway(*kind); });
        keys_.on("keep-to/" + idText(kind->id), [this, kind] { keepToRange(session_, *kind); });
    }
    keys_.on("add-part", [this] { where_->openPartSheet(); });
    keys_.on("leave-out", [this] { leaveOut(); });
    keys_.on("next-mask-view", [this] { nextMaskView(1); });
    keys_.on("previous-mask-view", [this] { nextMaskView(-1); });
    keys_.on("zoom-to", [this] { zoomTo_.next(); });
    keys_.on("grips", [this] { toggleGrips(); });
    keys_.on("zoom-in", [this] { canvas_->zoomBy(std::sqrt(2.0)); });
    keys_.on("zoom-out", [this] { canvas_->zoomBy(std::sqrt(0.5)); });
    const auto look = [this](Look wanted) {
        return [this, wanted] {
            if (session_.isOpen()) session_.setLook(session_.look() == wanted ? Look::result : wanted);
        };
    };
    keys_.on("split", look(Look::split));
    keys_.on("beside", look(Look::beside));
    keys_.on("blink", look(Look::blink));
    keys_.on("swap-sides", [this] { canvas_->swapSides(); });
    keys_.on("turn-split", [this] { canvas_->turnSplit(15); });
    keys_.on("keep-state", [this] { lookBar_->compareMenu().keepState(); });
    keys_.on("drop-probe", [this] { dropProbe(); });
    keys_.on("notes", [this] { notesLine_->toggle(); });
    keys_.on("invert", [this] { invertSelected(); });
    keys_.on("error-map", [this] { hem_.setShowsMap(!hem_.showsMap()); });
    keys_.on("next-finding", [this] { stepFinding(1); });
    keys_.on("previous-finding", [this] { stepFinding(-1); });
    keys_.on("say-hem", [this] { sayHem(); });
    keys_.on("previous", [this] { nextCorrection(-1); });
    keys_.on("next", [this] { nextCorrection(1); });
    keys_.on("on-off", [this] { sequence_->toggleSelected(); });
    keys_.on("new-correction", [this] { sequence_->openNewMenu(); });
    keys_.on("starters", [this] { sequence_->openStarters(); });
    keys_.on("counterpart", [this] { session_.goToCounterpart(); });
    keys_.on("bracket", [this] {
        if (session_.isOpen()) session_.turnBracket();
    });
    keys_.on("copy", [this] {
        where_->isAncestorOf(QApplication::focusWidget()) ? copyParts(session_) : copyEffect(session_);
    });
    keys_.on("copy-mask", [this] { copyMask(session_); });
    keys_.on("paste", [this] { paste(session_); });
    keys_.on("add-adjustment", [this] { what_->openAdjustmentSheet(); });
    keys_.on("menu", [this] { lookBar_->openMenu(); });
    keys_.on("take-back", [this] { session_.takeLastPressBack(); });
    keys_.on("leave", [this] {
        if (canvas_->cancelGesture()) return;
        session_.worksOnLimit() ? session_.setWorksOnLimit(false) : hem_.leave();
    });
    makeBrushKeys();
    makeHeldKeys();
}

void MainWindow::makeBrushKeys() {
    keys_.on("smaller", [this] { changeBrush(BrushTrait::size, -1); });
    keys_.on("larger", [this] { changeBrush(BrushTrait::size, 1); });
    keys_.on("harder", [this] { changeBrush(BrushTrait::softness, -1); });
    keys_.on("softer", [this] { changeBrush(BrushTrait::softness, 1); });
    keys_.on("weaker", [this] { changeBrush(BrushTrait::strength, -1); });
    keys_.on("stronger", [this] { changeBrush(BrushTrait::strength, 1); });
}

void MainWindow::makeHeldKeys() {
    using Held = Session::Held;
    keys_.setHeldWhen([this] { return session_.isOpen(); });
    const auto compare = [this](Held held) {
        return [this, held](bool pressed) {
            session_.setHeld(pressed ? held : Held::nothing);
            return true;
        };
    };
    keys_.onHeld("before", compare(Held::allOff));
    keys_.onHeld("selected-off", compare(Held::selectedOff));
    keys_.onHeld("push", [this](bool pressed) {
        session_.setHeld(pressed ? Held::push : Held::nothing, pressed ? what_->adjustmentPointedAt() : 0);
        return true;
    });
    keys_.onHeld("lost", compare(Held::lost));
    keys_.onHeld("loupe", [this](bool pressed) {
        canvas_->setLoupeHeld(pressed);
        return true;
    });
    keys_.onHeld("closer", [this](bool pressed) {
        canvas_->lookCloser(pressed);
        return true;
    });
    keys_.onHeld("hand", [this](bool pressed) {
        // A button in focus keeps Space to itself, and so does the canvas while it is worked on by keys.
        const QWidget* focus = QApplication::focusWidget();
        const bool isTaken = qobject_cast<const QAbstractButton*>(focus) ||
                             (focus && focus->property("takesSpace").toBool()) || canvas_->isWorkedByKeys();
        if (pressed && isTaken) return false;
        canvas_->setHandHeld(pressed);
        return true;
    });
    keys_.onHeld("pick", [this](bool pressed) {
        canvas_->setPickHeld(pressed);
        return true;
    });
    keys_.onHeld("removes", [this, isBrush = true](bool pressed) mutable {
        if (pressed) isBrush = paintsNow();
        if (isBrush) {
            toggleRemoves();
        } else if (pressed) {
            turnPart();
        }
        return true;
    });
    keys_.onHeld("holds", [this](bool) {
        toggleHolds();
        return true;
    });
    keys_.onHeld("brush-by-drag", [this](bool pressed) { return canvas_->setDialHeld(pressed); });
    keys_.onModifiers([this](Qt::KeyboardModifiers modifiers) { canvas_->setModifiers(modifiers); });
}

void MainWindow::keyPressEvent(QKeyEvent* event) {
    if (!keys_.handle(*event)) QMainWindow::keyPressEvent(event);
}

bool MainWindow::showsPanels() const {
    return !where_->isHidden();
}

void MainWindow::showPanels(bool show) {
    for (QWidget* panel : {static_cast<QWidget*>(where_), static_cast<QWidget*>(what_), static_cast<QWidget*>(sequence_)})
        panel->setVisible(show);
    photoLine_->setVisible(show || jobs_.isBusy());
    QSettings().setValue("panelsHidden", !show);
}

void MainWindow::nextSurround() {
    setSurround(static_cast<Surround>((static_cast<int>(surround()) + 1) % surrounds));
    showSurround();
}

void MainWindow::showSurround() {
    canvas_->update();
    if (second_) second_->update();
}

void MainWindow::toggleSecondView() {
    if (!second_) {
        second_ = new SecondView(session_, this);
        keys_.hearAlso(second_);
        connect(second_, &SecondView::keyUnused, this, [this](const QKeyEvent& event) { keys_.handle(event); });
        connect(canvas_, &Canvas::pressedAt, second_, &SecondView::showPlace);
    }
    second_->isVisible() ? void(second_->close()) : second_->show();
}

void MainWindow::toggleInset() {
    setShowsInset(!showsInset());
    canvas_->placeInset();
}

void MainWindow::toggleGrips() {
    if (!session_.isOpen()) return;
    session_.setShowsGrips(!session_.wantsGrips());
    session_.say(
        session_.wantsGrips()
            ? tr("Grips and points are shown again.")
            : tr("Grips and points are out of sight; they still work. %1 brings them back.").arg(keyText("grips")));
}

void MainWindow::toggleRemoves() {
    mask::BrushSettings brush = session_.brush();
    brush.removes = !brush.removes;
    session_.setBrush(brush);
}

// Strokes are laid by the brush's own settings; without a part it is they that are meant.
bool MainWindow::paintsNow() const {
    const mask::Part* part = session_.part();
    return !part || dynamic_cast<const mask::Brush*>(part->shape.get());
}

void MainWindow::turnPart() {
    const bool takes = session_.part()->combine != mask::Combine::subtract;
    session_.edit(takes ? tr("take part away") : tr("add part again"), [&](const document::Document& d) {
        return withEachPart(d, session_.selectedCorrection(), session_.selectedParts(), [&](mask::Part& part) {
            if (!part.shape->isZone()) part.combine = takes ? mask::Combine::subtract : mask::Combine::add;
        });
    });
    session_.sayOfStep(takes ? tr("The part takes away from those above it.") : tr("The part adds to those above it."));
}

// By a region, whatever the mask is made of.
void MainWindow::leaveOut() {
    if (!session_.isOpen()) return;
    if (!session_.correction()) {
        session_.say(tr("Select a correction first: something is left out of its mask."));
        return;
    }
    const mask::Part* part = session_.part();
    const bool isReady =
        part && part->combine == mask::Combine::subtract && &part->shape->kind() == &mask::Region::kindInfo;
    if (!isReady) session_.addPartTakingAway(mask::Region::kindInfo);
    session_.say(tr("Press on what is to be left out of the mask, or drag within it."));
}

void MainWindow::toggleHolds() {
    mask::BrushSettings brush = session_.brush();
    brush.holds = !brush.holds;
    session_.setBrush(brush);
}

void MainWindow::dropProbe() {
    if (!session_.isOpen()) return;
    const auto place = canvas_->pointedAt();
    if (!place) {
        session_.say(tr("Point at the photo first: the probe goes where the pointer is."));
        return;
    }
    probes_.add(*place);
}

void MainWindow::stepFinding(int by) {
    if (!session_.isOpen() || hem_.step(by)) return;
    session_.say(hem_.report()           ? tr("The hem check has found no place to look at.")
                 : session_.correction() ? tr("The hem check is still running.")
                                         : tr("Select a correction first: the hem check looks at its mask."));
}

void MainWindow::nextCorrection(int by) {
    if (!session_.isOpen()) return;
    const auto& corrections = session_.document()->corrections;
    const int next = document::indexOf(*session_.document(), session_.selectedCorrection()) + by;
    if (next >= 0 && next < static_cast<int>(corrections.size()))
        session_.selectCorrection(corrections[static_cast<std::size_t>(next)]->id);
}

void MainWindow::nextMaskView(int by) {
    constexpr int views = static_cast<int>(std::size(maskViewOrder));
    const int at = static_cast<int>(std::find(std::begin(maskViewOrder), std::end(maskViewOrder), session_.maskView()) -
                                    std::begin(maskViewOrder));
    session_.setMaskView(maskViewOrder[(at + by + views) % views]);
}

void MainWindow::changeBrush(BrushTrait trait, int steps) {
    session_.setBrush(stepped(session_.brush(), trait, steps));
}

void MainWindow::invertSelected() {
    if (!session_.part()) return;
    session_.edit(tr("invert part"), [&](const document::Document& d) {
        return withEachPart(d, session_.selectedCorrection(), session_.selectedParts(),
                            [](mask::Part& part) { part.flipped = !part.flipped; });
    });
}

}  // namespace dimhem::ui
