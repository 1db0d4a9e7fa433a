#include "ui/main_window.h"

#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QHBoxLayout>
#include <QSettings>
#include <QStackedWidget>

#include "ui/canvas/second_view.h"
#include "ui/control/spoken.h"
#include "ui/panel/compare_menu.h"
#include "ui/panel/help_panel.h"
#include "ui/panel/hem_line.h"
#include "ui/panel/look_bar.h"
#include "ui/panel/message_bar.h"
#include "ui/panel/notes_line.h"
#include "ui/panel/photo_line.h"
#include "ui/panel/progress_line.h"
#include "ui/panel/sequence_panel.h"
#include "ui/panel/start_page.h"
#include "ui/panel/what_panel.h"
#include "ui/panel/where_panel.h"

namespace dimhem::ui {

MainWindow::MainWindow() {
    installSpoken();
    setWindowTitle("Dim Hem");
    makeActions();
    arrange();
    fillMenu();
    makeKeys();
    connectParts();
    resize(1280, 800);
    const QByteArray geometry = QSettings().value("geometry").toByteArray();
    if (!geometry.isEmpty()) restoreGeometry(geometry);
    takeUpKeys();
}

// What cancelling the running work leaves behind.
QString MainWindow::cancelTip() const {
    switch (jobs_.running()) {
        case DocumentJobs::Kind::opening: return tr("Stop opening; what was open stays open");
        case DocumentJobs::Kind::exporting: return tr("Stop exporting; no file is written");
        case DocumentJobs::Kind::saving: return tr("Stop saving; the file stays as it was");
        case DocumentJobs::Kind::none: break;
    }
    return {};
}

QString MainWindow::message() const {
    return messages_->sentence();
}

bool MainWindow::isSettled() const {
    return !jobs_.isBusy() && !session_.isReading() && pictures_.isUpToDate() && hem_.isUpToDate() &&
           colours_.isUpToDate() && noise_.isUpToDate() && probes_.isUpToDate() && notes_.isUpToDate() &&
           threads_.isUpToDate() && journal_.isUpToDate() && zoomTo_.isIdle() &&
           (!session_.isOpen() || canvas_->isUpToDate()) && (!second_ || second_->isUpToDate());
}

void MainWindow::arrange() {
    const auto action = [this](const char* id) { return actions_.value(id); };
    lookBar_ = new LookBar(session_,
                           {&menu_, action("open"), action("save"), action("export"), action("undo"), action("redo"),
                            action("fit"), action("actual-size")},
                           this);
    progress_ = new ProgressLine(this);
    canvas_ = new Canvas(session_, hem_, this);
    where_ = new WherePanel(session_, pictures_, this);
    what_ = new WhatPanel(session_, colours_, noise_, probes_, measuring_, this);
    notesLine_ = new NotesLine(session_, notes_, canvas_, this);
    photoLine_ = new PhotoLine(new HemLine(hem_, this), notesLine_, this);
    sequence_ = new SequencePanel(session_, pictures_, this);
    start_ = new StartPage(session_.background(), this);
    help_ = new HelpPanel(this);

    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(canvas_, 1);
    middle->addWidget(photoLine_);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(0);
    upper->addWidget(where_);
    upper->addLayout(middle, 1);
    upper->addWidget(help_);
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
    notesLine_->setWindowArea(whole);
    messages_ = new MessageBar({canvas_, start_}, whole);
    showPanels(!QSettings().value("panelsHidden").toBool());
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
    connect(&session_, &Session::said, messages_, &MessageBar::say);
    connect(canvas_, &Canvas::viewportChanged, this,
            [this] {  // Screen pixels, not those of a scaled desktop.
                lookBar_->setZoom(canvas_->viewport().zoom() * canvas_->devicePixelRatioF(),
                                  canvas_->viewport().isFit());
            });
    connect(canvas_, &Canvas::renderingChanged, this, [this](bool running) {
        if (!jobs_.isBusy()) progress_->setRunning(running);
    });
    connect(canvas_, &Canvas::pointerRead, photoLine_, &PhotoLine::showPointer);
    connect(canvas_, &Canvas::pointerLeft, photoLine_, &PhotoLine::clearPointer);
    connect(canvas_, &Canvas::pointerRead, &session_, [this](const PointerColours& c) { session_.setPointer(c); });
    connect(canvas_, &Canvas::pointerLeft, &session_, [this] { session_.setPointer(std::nullopt); });
    connect(notesLine_, &NotesLine::placeWanted, canvas_, [this](const base::Rect& place) { canvas_->lookAt(place); });
    connect(&zoomTo_, &ZoomTo::found, canvas_, [this](const base::Rect& place) { canvas_->lookAt(place, 0.85); });
    connect(lookBar_, &LookBar::zoomWanted, canvas_, &Canvas::zoomTo);
    connect(&lookBar_->compareMenu(), &CompareMenu::swapWanted, canvas_, &Canvas::swapSides);
    connect(&lookBar_->compareMenu(), &CompareMenu::turnWanted, canvas_, &Canvas::turnSplit);
    // The photo has the keys where nothing else has.
    connect(qApp, &QApplication::focusChanged, this, [this](const QWidget*, const QWidget* now) {
        if (!now && isActiveWindow() && session_.isOpen() && !QApplication::activeModalWidget()) canvas_->setFocus();
    });
    connect(canvas_, &Canvas::menuWanted, this, &MainWindow::showPhotoMenu);
    connect(canvas_, &Canvas::numbersWanted, this, &MainWindow::showNumbers);
    connect(canvas_, &Canvas::filesDropped, this, &MainWindow::openFile);
    connect(start_, &StartPage::openWanted, &files_, &FileWork::chooseAndOpen);
    connect(start_, &StartPage::fileWanted, this, &MainWindow::openFile);
    connect(photoLine_, &PhotoLine::cancelWanted, this, [this] { jobs_.cancel(); });
    connect(start_, &StartPage::goOnWanted, &files_, &FileWork::goOnWith);
    connect(start_, &StartPage::forgetWanted, &files_, &FileWork::forget);
    connect(&files_, &FileWork::leftBehindFound, start_, &StartPage::showUnsaved);
    connect(help_, &HelpPanel::keysChanged, this, &MainWindow::takeUpKeys);
    files_.setSmallPicture([this] { return canvas_->overview(); });
    connectJobs();
    files_.refreshLeftBehind();
}

void MainWindow::connectJobs() {
    connect(&jobs_, &DocumentJobs::busyChanged, this, [this] {
        progress_->setPart(std::nullopt);
        progress_->setRunning(jobs_.isBusy());
        photoLine_->setJob(jobs_.job(), cancelTip());
        photoLine_->setVisible(showsPanels() || jobs_.isBusy());
        updateActions();
    });
    connect(&jobs_, &DocumentJobs::progressed, progress_, &ProgressLine::setPart);
    connect(&jobs_, &DocumentJobs::firstLook, this, [this](const QImage& small) {
        canvas_->showFirstLook(small);
        if (!session_.isOpen()) pages_->setCurrentIndex(1);
    });
}

void MainWindow::updateActions() {
    const bool open = session_.isOpen(), idle = !jobs_.isBusy();
    for (const char* id : {"save", "save-as", "export", "close", "fit", "actual-size"})
        actions_.value(id)->setEnabled(open);
    const auto name = [this](const char* id, bool can, const QString& tip) {
        QAction* action = actions_.value(id);
        action->setEnabled(can);
        action->setToolTip(withKey(tip, id));
    };
    name("undo", session_.canUndo(),
         session_.canUndo() ? tr("Undo: %1").arg(session_.undoName()) : tr("Nothing to undo"));
    name("redo", session_.canRedo(),
         session_.canRedo() ? tr("Redo: %1").arg(session_.redoName()) : tr("Nothing to redo"));
    for (const char* id : {"duplicate", "remove"}) actions_.value(id)->setEnabled(session_.correction());
    setWindowTitle(!open                ? tr("Dim Hem")
                   : session_.isSaved() ? tr("%1 – Dim Hem").arg(session_.name())
                                        : tr("%1 * – Dim Hem").arg(session_.name()));
    // Back to the start page where opening the first photo failed.
    if (!open && idle) {
        start_->refresh();
        pages_->setCurrentIndex(0);
    }
}

void MainWindow::closeEvent(QCloseEvent* event) {
    QSettings().setValue("geometry", saveGeometry());
    event->setAccepted(files_.mayClose());
}

void MainWindow::endAtOnce() {
    files_.settleInput();
    journal_.waitUntilWritten();
    QApplication::exit(0);
}

}  // namespace dimhem::ui
