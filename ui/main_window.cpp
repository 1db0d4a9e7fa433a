#include "ui/main_window.h"

#include <QAbstractSpinBox>
#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QDateTime>
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
#include "ui/control/icon.h"
#include "ui/panel/bound_slider.h"
#include "ui/panel/export_dialog.h"
#include "ui/panel/hem_line.h"
#include "ui/panel/look_bar.h"
#include "ui/panel/message_bar.h"
#include "ui/panel/notes_line.h"
#include "ui/panel/progress_line.h"
#include "ui/panel/sequence_panel.h"
#include "ui/panel/start_page.h"
#include "ui/panel/what_panel.h"
#include "ui/panel/where_panel.h"

namespace dimhem::ui {

namespace {

constexpr qint64 tapMs = 300;  // a key held no longer than this is a tap

bool isTyping() {
    QWidget* focus = QApplication::focusWidget();
    return qobject_cast<QLineEdit*>(focus) || qobject_cast<QAbstractSpinBox*>(focus);
}

QString openFilter() {
    return QObject::tr("Photos and documents (*.jpg *.jpeg *.jpe *.png *.tif *.tiff *.webp *.exr *.%1);;All files (*)")
        .arg(words(io::documentExtension));
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
    return !jobs_.isBusy() && pictures_.isUpToDate() && hem_.isUpToDate() && colours_.isUpToDate() &&
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
        auto* shortcut = new QShortcut(QKeySequence(keys), this);
        connect(shortcut, &QShortcut::activated, this, [act = std::move(act)] {
            if (!isTyping()) act();
        });
    };
    int number = 1;
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        key(qPrintable(QString::number(number++)), [this, kind] { session_.addPart(*kind); });
    }
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
    key("{", [this] { changeBrush(&mask::BrushSettings::softnessPct, -5, false); });
    key("}", [this] { changeBrush(&mask::BrushSettings::softnessPct, 5, false); });
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

void MainWindow::arrange() {
    lookBar_ = new LookBar(session_, {open_, save_, export_, undo_, redo_, fit_, actual_}, this);
    progress_ = new ProgressLine(this);
    canvas_ = new Canvas(session_, hem_, this);
    hemLine_ = new HemLine(hem_, this);
    where_ = new WherePanel(session_, pictures_, this);
    what_ = new WhatPanel(session_, colours_, this);
    notes_ = new NotesLine(session_, this);
    sequence_ = new SequencePanel(session_, pictures_, this);
    start_ = new StartPage(this);
    messages_ = new MessageBar(this);

    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(canvas_, 1);
    middle->addWidget(hemLine_);
    middle->addWidget(notes_);
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
    const bool hidden = QSettings().value("panelsHidden").toBool();
    for (QWidget* panel : {where_, what_, static_cast<QWidget*>(sequence_)}) panel->setVisible(!hidden);
}

void MainWindow::connectParts() {
    connect(&session_, &Session::opened, this, [this] {
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
    connect(canvas_, &Canvas::viewportChanged, this, [this] {
        lookBar_->setZoom(canvas_->viewport().zoom(), canvas_->viewport().isFit());
        notes_->setZoom(canvas_->viewport().zoom());
    });
    connect(canvas_, &Canvas::renderingChanged, this, [this](bool running) {
        if (!jobs_.isBusy()) progress_->setRunning(running);
        notes_->setRendering(running);
    });
    connect(canvas_, &Canvas::pointerRead, notes_, &NotesLine::showPointer);
    connect(canvas_, &Canvas::pointerLeft, notes_, &NotesLine::clearPointer);
    connect(canvas_, &Canvas::pointerRead, &session_, [this](const PointerColours& c) { session_.setPointer(c); });
    connect(canvas_, &Canvas::pointerLeft, &session_, [this] { session_.setPointer(std::nullopt); });
    connect(canvas_, &Canvas::filesDropped, this, &MainWindow::openFile);
    connect(start_, &StartPage::openWanted, this, &MainWindow::chooseAndOpen);
    connect(start_, &StartPage::fileWanted, this, &MainWindow::openFile);
    connect(notes_, &NotesLine::cancelWanted, this, [this] { jobs_.cancel(); });
    connect(&jobs_, &DocumentJobs::busyChanged, this, [this] {
        progress_->setPart(std::nullopt);
        progress_->setRunning(jobs_.isBusy());
        notes_->setJob(jobs_.job());
        updateActions();
    });
    connect(&jobs_, &DocumentJobs::progressed, progress_, &ProgressLine::setPart);
    connect(&jobs_, &DocumentJobs::firstLook, this, [this](const QImage& small) {
        canvas_->showFirstLook(small);
        if (!session_.isOpen()) pages_->setCurrentIndex(1);
    });
    connect(&jobs_, &DocumentJobs::photoMissing, this, &MainWindow::askForPhoto);
}

void MainWindow::updateActions() {
    const bool open = session_.isOpen(), idle = !jobs_.isBusy();
    open_->setEnabled(idle);
    save_->setEnabled(open && idle);
    saveAs_->setEnabled(open && idle);
    export_->setEnabled(open && idle);
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

void MainWindow::resizeEvent(QResizeEvent*) {
    messages_->fitInto(width());
    messages_->move(messages_->x(), lookBar_->height() + 14);
}

// Keys that act while they are held reach us here, before any widget, unless something is being typed.
bool MainWindow::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::ApplicationDeactivate || event->type() == QEvent::WindowDeactivate) releaseHeldKeys();
    if (event->type() != QEvent::KeyPress && event->type() != QEvent::KeyRelease) return false;
    auto* widget = qobject_cast<QWidget*>(object);
    if (!widget || widget->window() != this || isTyping() || !session_.isOpen()) return false;
    auto* key = static_cast<QKeyEvent*>(event);
    if (key->modifiers() & (Qt::ControlModifier | Qt::AltModifier)) return false;
    if (key->isAutoRepeat()) {
        return key->key() == Qt::Key_A || key->key() == Qt::Key_P || key->key() == Qt::Key_R ||
               key->key() == Qt::Key_Z || key->key() == Qt::Key_Space;
    }
    return handleHeldKey(key->key(), key->modifiers(), event->type() == QEvent::KeyPress);
}

bool MainWindow::handleHeldKey(int key, Qt::KeyboardModifiers modifiers, bool pressed) {
    using Held = Session::Held;
    switch (key) {
        case Qt::Key_A:
            session_.setHeld(!pressed                        ? Held::nothing
                             : modifiers & Qt::ShiftModifier ? Held::selectedOff
                                                             : Held::allOff);
            return true;
        case Qt::Key_P: session_.setHeld(pressed ? Held::push : Held::nothing); return true;
        case Qt::Key_Z: canvas_->lookCloser(pressed); return true;
        case Qt::Key_Space: {
            // A focused button keeps Space to itself.
            if (qobject_cast<QAbstractButton*>(QApplication::focusWidget())) return false;
            canvas_->setHandHeld(pressed);
            return true;
        }
        case Qt::Key_R: {
            // A tap switches; a key held longer removes while it is held.
            const qint64 now = QDateTime::currentMSecsSinceEpoch();
            if (pressed) {
                removePressedAt_ = now;
                toggleRemoves();
            } else if (now - removePressedAt_ > tapMs) {
                toggleRemoves();
            }
            return true;
        }
        default: return false;
    }
}

void MainWindow::releaseHeldKeys() {
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
    session_.commit(document::withPart(*session_.document(), session_.selectedCorrection(), session_.selectedPart(),
                                       [](mask::Part& part) { part.flipped = !part.flipped; }),
                    tr("flip part"));
}

void MainWindow::openFile(const QString& path) {
    guarded([this, path] { jobs_.open(path); });
}

void MainWindow::chooseAndOpen() {
    guarded([this] {
        auto* chooser =
            new QFileDialog(this, tr("Open photo or document"), QSettings().value("folder").toString(), openFilter());
        chooser->setFileMode(QFileDialog::ExistingFile);
        chooser->setAttribute(Qt::WA_DeleteOnClose);
        connect(chooser, &QFileDialog::fileSelected, this, [this](const QString& path) {
            QSettings().setValue("folder", QFileInfo(path).absolutePath());
            jobs_.open(path);
        });
        chooser->open();
    });
}

void MainWindow::save(std::function<void()> then) {
    if (!session_.isOpen()) return;
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
    const QString ending = words(io::documentExtension);
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
    const image::Photo& photo = session_.renderer().photo().photo();
    const bool hasBackdrop = photo.samples.hasAlpha() && session_.document()->backdrop.index() != 0;
    auto* dialog = new ExportDialog(photo, hasBackdrop, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] {
        const task::ExportSettings settings = dialog->settings();
        const QString ending = words(settings.format->extensions.front());
        auto* chooser =
            new QFileDialog(this, tr("Export picture"), {}, tr("%1 (*.%2)").arg(words(settings.format->name), ending));
        chooser->setAcceptMode(QFileDialog::AcceptSave);
        chooser->setDefaultSuffix(ending);
        const auto& origin = session_.origin();
        const auto& beside = origin.photoPath.empty() ? origin.documentPath : origin.photoPath;
        chooser->setDirectory(QString::fromStdString(beside.parent_path().string()));
        chooser->selectFile(session_.name() + "-corrected." + ending);
        chooser->setAttribute(Qt::WA_DeleteOnClose);
        connect(chooser, &QFileDialog::fileSelected, this, [this, settings](const QString& path) {
            if (std::filesystem::path(path.toStdString()) == session_.origin().photoPath) {
                session_.say(tr("That is the photo itself, which is never changed: choose another name."));
                return;
            }
            jobs_.exportTo(path, settings);
        });
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
        connect(chooser, &QFileDialog::fileSelected, this,
                [this, documentPath](const QString& photo) { jobs_.open(documentPath, photo); });
        chooser->open();
    });
}

void MainWindow::guarded(std::function<void()> act) {
    if (!session_.isOpen() || session_.isSaved()) {
        act();
        return;
    }
    auto* question =
        new QMessageBox(QMessageBox::NoIcon, tr("Unsaved changes"),
                        tr("The corrections of %1 are not saved.").arg(session_.name()), QMessageBox::NoButton, this);
    question->setAttribute(Qt::WA_DeleteOnClose);
    QPushButton* keep = question->addButton(tr("Save"), QMessageBox::AcceptRole);
    QPushButton* drop = question->addButton(tr("Leave them"), QMessageBox::DestructiveRole);
    question->addButton(tr("Stay here"), QMessageBox::RejectRole);
    question->setDefaultButton(keep);
    connect(question, &QMessageBox::buttonClicked, this,
            [this, keep, drop, act = std::move(act)](QAbstractButton* button) {
                if (button == keep) save(act);
                if (button == drop) act();
            });
    question->open();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    QSettings().setValue("geometry", saveGeometry());
    if (leaving_ || !session_.isOpen() || session_.isSaved()) {
        event->accept();
        return;
    }
    event->ignore();
    guarded([this] {
        leaving_ = true;
        close();
    });
}

}  // namespace dimhem::ui
