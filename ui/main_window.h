// The window: puts the panels round the canvas and connects them.
//
// What it does with files is in FileWork, what its keys do in window_keys.cpp, what its menu offers in window_menu.cpp.
#pragma once

#include <QMainWindow>
#include <QMenu>

#include "ui/canvas/canvas.h"
#include "ui/file_work.h"
#include "ui/key_actions.h"
#include "ui/session/brush_steps.h"
#include "ui/session/colour_watch.h"
#include "ui/session/document_jobs.h"
#include "ui/session/hem_watch.h"
#include "ui/session/journal_keeper.h"
#include "ui/session/measuring_watch.h"
#include "ui/session/noise_watch.h"
#include "ui/session/notes_watch.h"
#include "ui/session/probe_watch.h"
#include "ui/session/small_pictures.h"
#include "ui/session/thread_watch.h"
#include "ui/session/zoom_to.h"

class QStackedWidget;

namespace dimhem::ui {

class HelpPanel;
class LookBar;
class MessageBar;
class NotesLine;
class PhotoLine;
class ProgressLine;
class SecondView;
class SequencePanel;
class StartPage;
class WhatPanel;
class WherePanel;

class MainWindow final : public QMainWindow {
    Q_OBJECT

public:
    MainWindow();

    void openFile(const QString& path) { files_.openFile(path); }
    // Told to end from outside: ends at once, with the unsaved work in the journal.
    void endAtOnce();
    JournalKeeper& journal() { return journal_; }
    Session& session() { return session_; }
    DocumentJobs& jobs() { return jobs_; }
    Canvas& canvas() { return *canvas_; }
    HemWatch& hem() { return hem_; }
    const NotesWatch& notes() const { return notes_; }
    const ProbeWatch& probes() const { return probes_; }
    QString message() const;

    // Everything on screen is as it will stay until something is done.
    bool isSettled() const;

protected:
    void closeEvent(QCloseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    // An action of the key table.
    QAction* makeAction(const QString& id, const QString& name, const QString& iconName, std::function<void()> act);
    void makeActions();
    void makeKeys();
    void makeBrushKeys();
    void makeHeldKeys();
    void takeUpKeys();
    void fillMenu();
    void fillRecent(QMenu* menu);
    void fillSteps(QMenu* menu);
    void showPhotoMenu(QPoint global, base::Point place);
    void showNumbers(QPoint global, base::Point place);
    void addProbeEntries(QMenu& menu, QPoint global, base::Point place);
    void addPartEntries(QMenu& menu, QPoint global);
    // Does what the key does, and shows it.
    QAction* addKeyEntry(QMenu& menu, const QString& words, const QString& id);
    void arrange();
    void connectParts();
    void connectJobs();
    void updateActions();
    QString cancelTip() const;

    void showPanels(bool show);
    bool showsPanels() const;
    void nextSurround();
    void showSurround();
    void toggleInset();
    void toggleSecondView();
    void sayHem();
    void about();
    void preferences();
    void nextCorrection(int by);
    void nextMaskView(int by);
    void changeBrush(BrushTrait trait, int steps);
    void invertSelected();
    void toggleRemoves();
    bool paintsNow() const;
    void turnPart();
    void leaveOut();
    void toggleHolds();
    void toggleGrips();
    void dropProbe();
    void stepFinding(int by);

    Session session_;
    DocumentJobs jobs_{session_};
    JournalKeeper journal_{session_, task::stateFolder()};
    FileWork files_{session_, jobs_, journal_, this};
    KeyActions keys_{this};
    MeasuringWatch measuring_{session_};
    ThreadWatch threads_{session_};
    SmallPictures pictures_{session_};
    HemWatch hem_{session_};
    ColourWatch colours_{session_};
    NoiseWatch noise_{session_};
    ProbeWatch probes_{session_};
    NotesWatch notes_{session_};
    ZoomTo zoomTo_{session_, hem_};
    QMenu menu_;
    Canvas* canvas_;
    HelpPanel* help_;
    LookBar* lookBar_;
    MessageBar* messages_;
    NotesLine* notesLine_;
    PhotoLine* photoLine_;
    ProgressLine* progress_;
    SecondView* second_ = nullptr;  // none: not wanted yet
    SequencePanel* sequence_;
    StartPage* start_;
    WherePanel* where_;
    WhatPanel* what_;
    QStackedWidget* pages_;
    QHash<QString, QAction*> actions_;  // by the id of their key
};

}  // namespace dimhem::ui
