// What the window does with files: choosing, opening, saving, exporting and closing, with a question first wherever
// work could be lost.
#pragma once

#include <QImage>
#include <QObject>
#include <QPointer>
#include <functional>

#include "ui/session/document_jobs.h"
#include "ui/session/journal_keeper.h"

class QMessageBox;

namespace dimhem::ui {

class FileWork final : public QObject {
    Q_OBJECT

public:
    FileWork(Session& session, DocumentJobs& jobs, JournalKeeper& journal, QWidget* window);

    void openFile(const QString& path);
    void chooseAndOpen();
    void save(std::function<void()> then = {});
    void saveAs(std::function<void()> then = {});
    void exportPicture();
    // Where a small version of the finished picture comes from, for judging the size of a file.
    void setSmallPicture(std::function<QImage()> from) { smallPicture_ = std::move(from); }
    void closePhoto();
    bool mayClose();     // the window; where not, it closes by itself once it may, or the person decides otherwise
    void settleInput();  // what is being typed or dragged becomes part of the document

    // Work that was left unsaved by a program that ended without a word.
    void refreshLeftBehind();
    void goOnWith(const task::Unsaved& unsaved);
    void forget(const task::Unsaved& unsaved);

Q_SIGNALS:
    void leftBehindFound(const std::vector<dimhem::task::Unsaved>& leftBehind);

private:
    void askForPhoto(const QString& documentPath, const QString& sentence);
    bool hasUnsaved() const;                  // that the person has not agreed to lose
    void guarded(std::function<void()> act);  // asks first where changes are not saved
    void ask(const QString& title, const QString& sentence,
             const QList<std::pair<QString, std::function<void()>>>& answers);
    bool waitsForJobs();  // before the window closes
    void offerLeftBehind(const std::vector<task::Unsaved>& leftBehind);

    Session& session_;
    DocumentJobs& jobs_;
    JournalKeeper& journal_;
    QWidget* window_;
    document::DocumentPtr dropped_;  // the version whose changes the person has agreed to lose
    QPointer<QMessageBox> question_;
    std::function<QImage()> smallPicture_;
};

}  // namespace dimhem::ui
