#include "ui/main_window.h"

#include <QAbstractSpinBox>
#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QShortcut>
#include <QStackedWidget>

#include "core/document/edits.h"
#include "core/io/document_file.h"
#include "core/mask/registry.h"
#include "ui/bound/bound_slider.h"
#include "ui/control/icon.h"
#include "ui/latin_key.h"
#include "ui/panel/export_dialog.h"
#include "ui/panel/hem_line.h"
#include "ui/panel/look_bar.h"
#include "ui/panel/message_bar.h"
#include "ui/panel/photo_line.h"
#include "ui/panel/progress_line.h"
#include "ui/panel/sequence_panel.h"
#include "ui/panel/start_page.h"
#include "ui/panel/what_panel.h"
#include "ui/panel/where_panel.h"
#include "ui/session/background.h"
#include "ui/session/part_key.h"

namespace dimhem::ui {

namespace {

constexpr quint64 tapMs = 300;  // a key held no longer than this is a tap

bool isTyping() {
    QWidget* focus = QApplication::focusWidget();
    return qobject_cast<QLineEdit*>(focus) || qobject_cast<QAbstractSpinBox*>(focus);
}

QString openFilter() {
    return QObject::tr("Photos and documents (*.jpg *.jpeg *.jpe *.png *.tif *.tiff *.webp *.exr *.%1);;All files (*)")
        .arg(idText(io::documentExtension));
}

}  // namespace

MainWindow::MainWindow() {
    setWindowTitle("Dim Hem");
    makeActions();
    arrange();
    makeKeys();
    connectParts();
    qApp->installEventFilter(this);
    resize(1280, 800);
    const QByteArray geometry = QSettings().value("geometry").toByteArray();
    if (!geometry.isEmpty()) restoreGeometry(geometry);
    updateActions();
}

MainWindow::~MainWindow() {
    qApp->removeEventFilter(this);
}

QString MainWindow::message() const {
    return messages_->sentence();
}

bool MainWindow::isSettled() const {
    return !jobs_.isBusy() && !session_.isReading() && pictures_.isUpToDate() && hem_.isUpToDate() &&
           colours_.isUpToDate() && noise_.isUpToDate() && threads_.isUpToDate() && journal_.isUpToDate() &&
           (!session_.isOpen() || canvas_->isUpToDate());
}

QAction* MainWindow::makeAction(const QString& name, const QString& iconName, const QKeySequence& key,
                                const QString& tip, std::function<void()> act) {
    auto* action = new QAction(name, this);
    if (!iconName.isEmpty()) action->setIcon(icon(iconName));
    action->setShortcut(key);
    action->setToolTip(key.isEmpty() ? tip : tip + " (" + key.toString(QKeySequence::NativeText) + ")");
    connect(action, &QAction::triggered, this, std::move(act));
    addAction(action);
    return action;
}

void MainWindow::makeActions() {
    open_ = makeAction(tr("Open"), "folder-open", QKeySequence("Ctrl+O"), tr("Open a photo or document"),
                       [this] { chooseAndOpen(); });
    save_ = makeAction(tr("Save"), "save", QKeySequence("Ctrl+S"), tr("Save the corrections as a document"),
                       [this] { save(); });
    saveAs_ = makeAction(tr("Save as"), {}, QKeySequence("Ctrl+Shift+S"), tr("Save the document in another place"),
                         [this] { saveAs(); });
    export_ = makeAction(tr("Export"), "image-down", QKeySequence("Ctrl+E"), tr("Export the finished picture"),
                         [this] { chooseAndExport(); });
    undo_ = makeAction(tr("Undo"), "undo-2", QKeySequence("Ctrl+Z"), tr("Undo"), [this] { session_.undo(); });
    redo_ = makeAction(tr("Redo"), "redo-2", QKeySequence("Ctrl+Shift+Z"), tr("Redo"), [this] { session_.redo(); });
    fit_ = makeAction(tr("Fit"), {}, QKeySequence("Ctrl+0"), tr("Show the whole photo"), [this] { canvas_->fit(); });
    actual_ = makeAction(tr("1:1"), {}, QKeySequence("Ctrl+1"), tr("One pixel of the photo for each of the screen"),
                         [this] { canvas_->actualSize(); });
    duplicate_ = makeAction(tr("Duplicate correction"), {}, QKeySequence("Ctrl+D"), tr("Duplicate the correction"),
                            [this] { session_.duplicateCorrection(); });
    delete_ = makeAction(tr("Remove correction"), {}, QKeySequence("Delete"), tr("Remove the correction"),
                         [this] { sequence_->removeSelected(); });
    makeAction(tr("Quit"), {}, QKeySequence("Ctrl+Q"), tr("Quit"), [this] { close(); });
    makeAction(tr("Full screen"), {}, QKeySequence("F11"), tr("Full screen"),
               [this] { isFullScreen() ? showNormal() : showFullScreen(); });
}

void MainWindow::makeKeys() {
    const auto key = [this](const char* keys, std::function<void()> act) {
        const QKeySequence sequence(keys);
        keys_[{sequence[0].key(), static_cast<int>(sequence[0].keyboardModifiers())}] = act;
        auto* shortcut = new QShortcut(sequence, this);
        connect(shortcut, &QShortcut::activated, this, [act = std::move(act)] {
            if (!isTyping()) act();
        });
    };
    for (const mask::ShapeKind* kind : mask::shapeKinds())
        key(qPrintable(partKey(*kind)), [this, kind] { session_.addPart(*kind); });
    key("G", [this] { nextMaskView(1); });
    key("Shift+G", [this] { nextMaskView(-1); });
    key("F", [this] { flipSelected(); });
    key("H", [this] { toggleHolds(); });
    key("Shift+H", [this] { hem_.setShowsMap(!hem_.showsMap()); });
    key("N", [this] { stepFinding(1); });
    key("Shift+N", [this] { stepFinding(-1); });
    key("[", [this] { changeBrush(&mask::BrushSettings::sizePx, 1 / 1.1, true); });
    key("]", [this] { changeBrush(&mask::BrushSettings::sizePx, 1.1, true); });
    key("Shift+[", [this] { changeBrush(&mask::BrushSettings::softnessPct, -5, false); });
    key("Shift+]", [this] { changeBrush(&mask::BrushSettings::softnessPct, 5, false); });
    key("Ctrl+[", [this] { changeBrush(&mask::BrushSettings::strengthPct, -5, false); });
    key("Ctrl+]", [this] { changeBrush(&mask::BrushSettings::strengthPct, 5, false); });
    key(",", [this] { nextCorrection(-1); });
    key(".", [this] { nextCorrection(1); });
    key("/", [this] { sequence_->toggleSelected(); });
    key("'", [this] {
        const bool show = where_->isHidden();
        for (QWidget* panel : {where_, what_, static_cast<QWidget*>(sequence_)}) panel->setVisible(show);
        QSettings().setValue("panelsHidden", !show);
    });
    key("Esc", [this] {
        if (!canvas_->cancelGesture()) hem_.leave();
    });
}

// What no shortcut and no widget took: the same keys under a layout without Latin letters, or with a modifier that
// makes another sign of them.
void MainWindow::keyPressEvent(QKeyEvent* event) {
    constexpr auto counted = Qt::ShiftModifier | Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier;
    const auto found = keys_.find({latinKey(*event), static_cast<int>(event->modifiers() & counted)});
    if (found == keys_.end() || isTyping()) {
        QMainWindow::keyPressEvent(event);
        return;
    }
    found->second();
}

void MainWindow::arrange() {
    lookBar_ = new LookBar(session_, {open_, save_, export_, undo_, redo_, fit_, actual_}, this);
    progress_ = new ProgressLine(this);
    canvas_ = new Canvas(session_, hem_, this);
    where_ = new WherePanel(session_, pictures_, this);
    what_ = new WhatPanel(session_, colours_, noise_, this);
    photoLine_ = new PhotoLine(new HemLine(hem_, this), this);
    sequence_ = new SequencePanel(session_, pictures_, this);
    start_ = new StartPage(this);

    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(canvas_, 1);
    middle->addWidget(photoLine_);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(0);
    upper->addWidget(where_);
    upper->addLayout(middle, 1);
    upper->addWidget(what_);
    auto* work = new QWidget(this);
    auto* column = new QVBoxLayout(work);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addLayout(upper, 1);
    column->addWidget(sequence_);

    pages_ = new QStackedWidget(this);
    pages_->addWidget(start_);
    pages_->addWidget(work);
    auto* whole = new QWidget(this);
    auto* rows = new QVBoxLayout(whole);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(0);
    rows->addWidget(lookBar_);
    rows->addWidget(progress_);
    rows->addWidget(pages_, 1);
    setCentralWidget(whole);
    messages_ = new MessageBar({canvas_, start_}, whole);
    const bool hidden = QSettings().value("panelsHidden").toBool();
    for (QWidget* panel : {where_, what_, static_cast<QWidget*>(sequence_)}) panel->setVisible(!hidden);
}

void MainWindow::connectParts() {
    connect(&session_, &Session::opened, this, [this] {
        dropped_.reset();
        pages_->setCurrentIndex(session_.isOpen() ? 1 : 0);
        if (session_.isOpen()) canvas_->setFocus();
    });
    for (const auto signal :
         {&Session::opened, &Session::documentChanged, &Session::selectionChanged, &Session::savedChanged}) {
        connect(&session_, signal, this, &MainWindow::updateActions);
    }
    connect(&session_, &Session::said, this,
            [this](const QString& sentence, const QString& actionName, const std::function<void()>& action) {
                messages_->say(sentence, actionName, action);
            });
    connect(canvas_, &Canvas::viewportChanged, this,
            [this] { lookBar_->setZoom(canvas_->viewport().zoom(), canvas_->viewport().isFit()); });
    connect(canvas_, &Canvas::renderingChanged, this, [this](bool running) {
        if (!jobs_.isBusy()) progress_->setRunning(running);
    });
    connect(canvas_, &Canvas::pointerRead, photoLine_, &PhotoLine::showPointer);
    connect(canvas_, &Canvas::pointerLeft, photoLine_, &PhotoLine::clearPointer);
    connect(canvas_, &Canvas::pointerRead, &session_, [this](const PointerColours& c) { session_.setPointer(c); });
    connect(canvas_, &Canvas::pointerLeft, &session_, [this] { session_.setPointer(std::nullopt); });
    connect(canvas_, &Canvas::filesDropped, this, &MainWindow::openFile);
    connect(start_, &StartPage::openWanted, this, &MainWindow::chooseAndOpen);
    connect(start_, &StartPage::fileWanted, this, &MainWindow::openFile);
    connect(photoLine_, &PhotoLine::cancelWanted, this, [this] { jobs_.cancel(); });
    connectJobs();
    connectJournal();
}

void MainWindow::connectJobs() {
    connect(&jobs_, &DocumentJobs::busyChanged, this, [this] {
        progress_->setPart(std::nullopt);
        progress_->setRunning(jobs_.isBusy());
        photoLine_->setJob(jobs_.job(), cancelTip());
        updateActions();
    });
    connect(&jobs_, &DocumentJobs::progressed, progress_, &ProgressLine::setPart);
    connect(&jobs_, &DocumentJobs::firstLook, this, [this](const QImage& small) {
        canvas_->showFirstLook(small);
        if (!session_.isOpen()) pages_->setCurrentIndex(1);
    });
    connect(&jobs_, &DocumentJobs::photoMissing, this, &MainWindow::askForPhoto);
    connect(&jobs_, &DocumentJobs::loaded, this,
            [this](const std::shared_ptr<task::Opened>& opened, const QString& path) {
                // What was changed while it was being read is asked about as well.
                guarded([this, opened, path] {
                    const QString warning = QString::fromStdString(opened->warning);
                    session_.start(std::move(*opened));
                    DocumentJobs::remember(path);
                    if (!warning.isEmpty()) session_.say(warning);
                    refreshLeftBehind();
                });
            });
    connect(&jobs_, &DocumentJobs::asked, this,
            [this](const QString& sentence, const QString& answer, const std::function<void()>& goOn) {
                ask(tr("Before it is written"), sentence, {{answer, goOn}});
            });
}

void MainWindow::connectJournal() {
    connect(&journal_, &JournalKeeper::openElsewhere, this, [this](const io::LockOwner& owner) {
        session_.say(
            tr("%1 is open in another window as well (process %2, since %3). Before one of them saves over the "
               "other's work, it asks.")
                .arg(session_.name())
                .arg(owner.process)
                .arg(QString::fromStdString(owner.since)));
    });
    connect(start_, &StartPage::goOnWanted, this, &MainWindow::goOnWith);
    connect(start_, &StartPage::forgetWanted, this, [this](const task::Unsaved& unsaved) {
        journal_.forget(unsaved);
        refreshLeftBehind();
    });
    refreshLeftBehind();
}

void MainWindow::updateActions() {
    const bool open = session_.isOpen(), idle = !jobs_.isBusy();
    save_->setEnabled(open);
    saveAs_->setEnabled(open);
    export_->setEnabled(open);
    undo_->setEnabled(session_.canUndo());
    redo_->setEnabled(session_.canRedo());
    undo_->setToolTip((session_.canUndo() ? tr("Undo %1").arg(session_.undoName()) : tr("Nothing to undo")) +
                      " (Ctrl+Z)");
    redo_->setToolTip((session_.canRedo() ? tr("Redo %1").arg(session_.redoName()) : tr("Nothing to redo")) +
                      " (Ctrl+Shift+Z)");
    fit_->setEnabled(open);
    actual_->setEnabled(open);
    duplicate_->setEnabled(session_.correction());
    delete_->setEnabled(session_.correction());
    setWindowTitle(open ? session_.name() + (session_.isSaved() ? "" : " *") + " – Dim Hem" : QString("Dim Hem"));
    // Back to the start page where opening the first photo failed.
    if (!open && idle) pages_->setCurrentIndex(0);
}

// What cancelling the running work leaves behind; empty where it is over too soon to be cancelled.
QString MainWindow::cancelTip() const {
    switch (jobs_.running()) {
        case DocumentJobs::Kind::opening: return tr("Stop opening; what was open stays open");
        case DocumentJobs::Kind::exporting: return tr("Stop exporting; no file is written");
        case DocumentJobs::Kind::saving:
        case DocumentJobs::Kind::none: break;
    }
    return {};
}

// Keys that act while they are held reach us here, before any widget, unless something is being typed. One that is held
// is let go of whatever else is held by then.
bool MainWindow::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::ApplicationDeactivate || event->type() == QEvent::WindowDeactivate) releaseHeldKeys();
    if (event->type() != QEvent::KeyPress && event->type() != QEvent::KeyRelease) return false;
    auto* widget = qobject_cast<QWidget*>(object);
    if (!widget || widget->window() != this) return false;
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool isHeld = held_.contains(latinKey(*key));
    if (event->type() == QEvent::KeyRelease) {
        if (!isHeld || key->isAutoRepeat()) return isHeld;
        held_.remove(latinKey(*key));
        return handleHeldKey(*key, false);
    }
    if (isHeld) return true;  // it repeats
    if (isTyping() || !session_.isOpen() || key->modifiers() & (Qt::ControlModifier | Qt::AltModifier)) return false;
    if (!handleHeldKey(*key, true)) return false;
    held_.insert(latinKey(*key));
    return true;
}

bool MainWindow::handleHeldKey(const QKeyEvent& event, bool pressed) {
    using Held = Session::Held;
    switch (latinKey(event)) {
        case Qt::Key_A:
            session_.setHeld(!pressed                                ? Held::nothing
                             : event.modifiers() & Qt::ShiftModifier ? Held::selectedOff
                                                                     : Held::allOff);
            return true;
        case Qt::Key_P: session_.setHeld(pressed ? Held::push : Held::nothing); return true;
        case Qt::Key_Z: canvas_->lookCloser(pressed); return true;
        case Qt::Key_Space: {
            // A focused button keeps Space to itself.
            if (pressed && qobject_cast<QAbstractButton*>(QApplication::focusWidget())) return false;
            canvas_->setHandHeld(pressed);
            return true;
        }
        case Qt::Key_R: {
            // A tap switches; a key held longer removes while it is held.
            if (pressed) {
                removePressedAt_ = event.timestamp();
                toggleRemoves();
            } else if (event.timestamp() > removePressedAt_ + tapMs) {
                toggleRemoves();
            }
            return true;
        }
        default: return false;
    }
}

void MainWindow::releaseHeldKeys() {
    held_.clear();
    session_.setHeld(Session::Held::nothing);
    canvas_->lookCloser(false);
    canvas_->setHandHeld(false);
}

void MainWindow::toggleRemoves() {
    mask::BrushSettings brush = session_.brush();
    brush.removes = !brush.removes;
    session_.setBrush(brush);
}

void MainWindow::toggleHolds() {
    mask::BrushSettings brush = session_.brush();
    brush.holds = !brush.holds;
    session_.setBrush(brush);
}

void MainWindow::stepFinding(int by) {
    if (!session_.isOpen() || hem_.step(by)) return;
    session_.say(hem_.report() ? tr("The hem check has found nothing to look at.")
                               : tr("The hem check has nothing to say yet."));
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

void MainWindow::changeBrush(double mask::BrushSettings::*value, double by, bool factor) {
    mask::BrushSettings brush = session_.brush();
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (param.value != value) continue;
        const double old = brush.*value;
        // A step of at least one, so that small brushes change too.
        double next = factor ? std::round(old * by) : old + by;
        if (factor && next == old) next += by > 1 ? 1 : -1;
        brush.*value = base::clamped(param.spec, next);
    }
    session_.setBrush(brush);
}

void MainWindow::flipSelected() {
    if (!session_.part()) return;
    session_.edit(tr("flip part"), [&](const document::Document& d) {
        return document::withPart(d, session_.selectedCorrection(), session_.selectedPart(),
                                  [](mask::Part& part) { part.flipped = !part.flipped; });
    });
}

void MainWindow::openFile(const QString& path) {
    guarded([this, path] { jobs_.open(path); });
}

void MainWindow::chooseAndOpen() {
    auto* chooser =
        new QFileDialog(this, tr("Open photo or document"), QSettings().value("folder").toString(), openFilter());
    chooser->setFileMode(QFileDialog::ExistingFile);
    chooser->setAttribute(Qt::WA_DeleteOnClose);
    connect(chooser, &QFileDialog::fileSelected, this, [this](const QString& path) {
        QSettings().setValue("folder", QFileInfo(path).absolutePath());
        openFile(path);
    });
    chooser->open();
}

void MainWindow::save(std::function<void()> then) {
    if (!session_.isOpen()) return;
    settleInput();
    const auto& path = session_.origin().documentPath;
    const bool isBareJson = path.extension() == ".json";
    if (path.empty() || isBareJson) {
        saveAs(std::move(then));
    } else {
        jobs_.save(QString::fromStdString(path.string()), std::move(then));
    }
}

void MainWindow::saveAs(std::function<void()> then) {
    if (!session_.isOpen()) return;
    settleInput();
    const QString ending = idText(io::documentExtension);
    auto* chooser = new QFileDialog(this, tr("Save document"), {}, tr("Dim Hem documents (*.%1)").arg(ending));
    chooser->setAcceptMode(QFileDialog::AcceptSave);
    chooser->setDefaultSuffix(ending);
    const auto& origin = session_.origin();
    const auto& beside = origin.documentPath.empty() ? origin.photoPath : origin.documentPath;
    chooser->setDirectory(QString::fromStdString(beside.parent_path().string()));
    chooser->selectFile(QString::fromStdString(beside.stem().string()) + "." + ending);
    chooser->setAttribute(Qt::WA_DeleteOnClose);
    connect(chooser, &QFileDialog::fileSelected, this,
            [this, then = std::move(then)](const QString& path) { jobs_.save(path, then); });
    chooser->open();
}

void MainWindow::chooseAndExport() {
    if (!session_.isOpen()) return;
    settleInput();
    const image::Photo& photo = session_.renderer().photo().photo();
    const bool hasBackdrop = photo.samples.hasAlpha() && session_.document()->backdrop.index() != 0;
    auto* dialog = new ExportDialog(photo, hasBackdrop, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] {
        const task::ExportSettings settings = dialog->settings();
        const QString ending = idText(settings.format->extensions.front());
        auto* chooser =
            new QFileDialog(this, tr("Export picture"), {}, tr("%1 (*.%2)").arg(idText(settings.format->name), ending));
        chooser->setAcceptMode(QFileDialog::AcceptSave);
        chooser->setDefaultSuffix(ending);
        const auto& origin = session_.origin();
        const auto& beside = origin.photoPath.empty() ? origin.documentPath : origin.photoPath;
        chooser->setDirectory(QString::fromStdString(beside.parent_path().string()));
        chooser->selectFile(session_.name() + "-corrected." + ending);
        chooser->setAttribute(Qt::WA_DeleteOnClose);
        connect(chooser, &QFileDialog::fileSelected, this,
                [this, settings](const QString& path) { jobs_.exportTo(path, settings); });
        chooser->open();
    });
    dialog->open();
}

void MainWindow::askForPhoto(const QString& documentPath, const QString& sentence) {
    session_.say(sentence, tr("Find the photo…"), [this, documentPath] {
        auto* chooser = new QFileDialog(this, tr("Find the photo of this document"),
                                        QFileInfo(documentPath).absolutePath(), openFilter());
        chooser->setFileMode(QFileDialog::ExistingFile);
        chooser->setAttribute(Qt::WA_DeleteOnClose);
        connect(chooser, &QFileDialog::fileSelected, this, [this, documentPath](const QString& photo) {
            guarded([this, documentPath, photo] { jobs_.open(documentPath, photo); });
        });
        chooser->open();
    });
}

// A number in a field, a key's pause, a stroke in hand: all of it belongs to what is saved, exported or asked about.
void MainWindow::settleInput() {
    QWidget* focus = QApplication::focusWidget();
    if (isTyping() && focus->window() == this) {
        const QPointer<QWidget> field = focus;
        field->clearFocus();
        if (field && field->isVisible()) field->setFocus();
    }
    if (session_.isOpen()) session_.endGesture();
}

void MainWindow::ask(const QString& title, const QString& sentence,
                     const QList<std::pair<QString, std::function<void()>>>& answers) {
    if (question_) question_->close();  // the newest question counts
    question_ = new QMessageBox(QMessageBox::NoIcon, title, sentence, QMessageBox::NoButton, this);
    question_->setAttribute(Qt::WA_DeleteOnClose);
    QHash<QAbstractButton*, std::function<void()>> acts;
    for (const auto& [words, act] : answers)
        acts[question_->addButton(words, acts.isEmpty() ? QMessageBox::AcceptRole : QMessageBox::DestructiveRole)] =
            act;
    question_->addButton(tr("Cancel"), QMessageBox::RejectRole);
    connect(question_, &QMessageBox::buttonClicked, this, [acts](QAbstractButton* button) {
        if (const auto act = acts.value(button)) act();
    });
    question_->open();
}

bool MainWindow::hasUnsaved() const {
    return session_.isOpen() && !session_.isSaved() && session_.document() != dropped_;
}

void MainWindow::guarded(std::function<void()> act) {
    settleInput();
    if (!hasUnsaved()) {
        act();
        return;
    }
    // What is changed while it is being saved is asked about again.
    ask(tr("Unsaved changes"), tr("The corrections of %1 are not saved.").arg(session_.name()),
        {{tr("Save"), [this, act] { save([this, act] { guarded(act); }); }}, {tr("Discard changes"), [this, act] {
                                                                                  dropped_ = session_.document();
                                                                                  act();
                                                                              }}});
}

bool MainWindow::waitsForJobs() {
    if (!jobs_.isBusy()) return false;
    const auto closeWhenDone = [this] {
        connect(
            &jobs_, &DocumentJobs::busyChanged, this, [this] { close(); }, Qt::SingleShotConnection);
    };
    if (jobs_.running() == DocumentJobs::Kind::exporting) {
        ask(tr("Export in progress"), tr("The program is still %1.").arg(jobs_.job()),
            {{tr("Finish it, then close"), closeWhenDone}, {tr("Stop it and close"), [this, closeWhenDone] {
                                                                closeWhenDone();
                                                                jobs_.cancel();
                                                            }}});
    } else {
        closeWhenDone();
        if (jobs_.running() == DocumentJobs::Kind::opening) jobs_.cancel();
    }
    return true;
}

void MainWindow::closeEvent(QCloseEvent* event) {
    QSettings().setValue("geometry", saveGeometry());
    settleInput();
    event->ignore();
    if (waitsForJobs()) return;
    if (hasUnsaved()) {
        guarded([this] { close(); });  // again, once it is saved or dropped
        return;
    }
    journal_.dropWork();
    event->accept();
}

void MainWindow::endAtOnce() {
    settleInput();
    journal_.waitUntilWritten();
    QApplication::exit(0);
}

// What a program left that ended without a word, on the start page.
void MainWindow::refreshLeftBehind() {
    runInBackground(
        this, [folder = journal_.folder()] { return task::unsavedIn(folder); },
        [this](const std::vector<task::Unsaved>& leftBehind) { offerLeftBehind(leftBehind); });
}

void MainWindow::offerLeftBehind(const std::vector<task::Unsaved>& leftBehind) {
    start_->showUnsaved(leftBehind);
    if (!session_.isOpen()) return;
    const task::JournalOrigin open{session_.origin().documentPath, session_.origin().photoPath};
    for (const task::Unsaved& unsaved : leftBehind) {
        if (!(unsaved.origin == open) || document::isSame(*unsaved.document, *session_.document())) continue;
        session_.say(tr("There is newer work on %1, which was not saved when the program ended.").arg(session_.name()),
                     tr("Go on with it"), [this, unsaved] { goOnWith(unsaved); });
    }
}

void MainWindow::goOnWith(const task::Unsaved& unsaved) {
    guarded([this, unsaved] { jobs_.recover(unsaved); });
}

}  // namespace dimhem::ui
