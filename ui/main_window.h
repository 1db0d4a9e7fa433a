// The window: puts the panels round the canvas and connects them; the keys; opening, saving and leaving.
#pragma once

#include <QMainWindow>
#include <QPointer>
#include <QSet>
#include <map>

#include "ui/canvas/canvas.h"
#include "ui/session/colour_watch.h"
#include "ui/session/document_jobs.h"
#include "ui/session/hem_watch.h"
#include "ui/session/journal_keeper.h"
#include "ui/session/measuring_watch.h"
#include "ui/session/noise_watch.h"
#include "ui/session/small_pictures.h"
#include "ui/session/thread_watch.h"

class QMessageBox;
class QStackedWidget;

namespace dimhem::ui {

class LookBar;
class MessageBar;
class PhotoLine;
class ProgressLine;
class SequencePanel;
class StartPage;

class MainWindow final : public QMainWindow {
    Q_OBJECT

public:
    MainWindow();
    ~MainWindow() override;

    void openFile(const QString& path);
    // Told to end from outside: ends at once, with the unsaved work in the journal.
    void endAtOnce();
    JournalKeeper& journal() { return journal_; }
    Session& session() { return session_; }
    DocumentJobs& jobs() { return jobs_; }
    Canvas& canvas() { return *canvas_; }
    HemWatch& hem() { return hem_; }
    QString message() const;

    // Everything on screen is as it will stay until something is done.
    bool isSettled() const;

protected:
    void closeEvent(QCloseEvent* event) override;
    bool eventFilter(QObject* object, QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    QAction* makeAction(const QString& name, const QString& iconName, const QKeySequence& key, const QString& tip,
                        std::function<void()> act);
    void makeActions();
    void makeKeys();
    void arrange();
    void connectParts();
    void connectJobs();
    void connectJournal();
    void updateActions();
    bool handleHeldKey(const QKeyEvent& event, bool pressed);
    void releaseHeldKeys();
    QString cancelTip() const;

    void chooseAndOpen();
    void save(std::function<void()> then = {});
    void saveAs(std::function<void()> then = {});
    void chooseAndExport();
    void askForPhoto(const QString& documentPath, const QString& sentence);
    bool hasUnsaved() const;                  // that the person has not agreed to lose
    void guarded(std::function<void()> act);  // asks first where changes are not saved
    void settleInput();                       // what is being typed or dragged becomes part of the document
    void ask(const QString& title, const QString& sentence,
             const QList<std::pair<QString, std::function<void()>>>& answers);
    bool waitsForJobs();  // before the window closes
    void offerLeftBehind(const std::vector<task::Unsaved>& leftBehind);
    void goOnWith(const task::Unsaved& unsaved);
    void refreshLeftBehind();
    void nextCorrection(int by);
    void nextMaskView(int by);
    void changeBrush(double mask::BrushSettings::*value, double by, bool factor);
    void flipSelected();
    void toggleRemoves();
    void toggleHolds();
    void stepFinding(int by);

    Session session_;
    DocumentJobs jobs_{session_};
    JournalKeeper journal_{session_, task::stateFolder()};
    MeasuringWatch measuring_{session_};
    ThreadWatch threads_{session_};
    SmallPictures pictures_{session_};
    HemWatch hem_{session_};
    ColourWatch colours_{session_};
    NoiseWatch noise_{session_};
    Canvas* canvas_;
    LookBar* lookBar_;
    MessageBar* messages_;
    PhotoLine* photoLine_;
    ProgressLine* progress_;
    SequencePanel* sequence_;
    StartPage* start_;
    QWidget *where_, *what_;
    QStackedWidget* pages_;
    QAction *open_, *save_, *saveAs_, *export_, *undo_, *redo_, *fit_, *actual_, *duplicate_, *delete_;
    document::DocumentPtr dropped_;  // the version whose changes the person has agreed to lose
    QPointer<QMessageBox> question_;
    std::map<std::pair<int, int>, std::function<void()>> keys_;  // by Latin key and modifiers
    QSet<int> held_;                                             // keys that act while they are held
    quint64 removePressedAt_ = 0;
};

}  // namespace dimhem::ui
