// Opening, saving and exporting: the long work with files, in the background, one after the other, with progress and a
// cancel that works.
//
// What is asked for while a job runs waits for its turn; nothing is dropped. Opening puts nothing in the place of the
// open document: it gives what it has read, and whoever asked decides.
#pragma once

#include <QObject>
#include <QString>
#include <deque>
#include <filesystem>

#include "core/task/export.h"
#include "core/task/journal.h"
#include "core/task/save.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class DocumentJobs final : public QObject {
    Q_OBJECT

public:
    enum class Kind { none, opening, saving, exporting };

    explicit DocumentJobs(Session& session, QObject* parent = nullptr) : QObject(parent), session_(session) {}
    ~DocumentJobs() override;  // waits for what is running

    // Reads a photo or document, and says loaded(). A newer wish takes the place of an older one that is not done.
    void open(const QString& path, const QString& photoInstead = {});
    void recover(const task::Unsaved& unsaved);
    // Saves the document as it is when its turn comes; `then` is called where that went well.
    void save(const QString& path, std::function<void()> then = {}, const task::SaveSettings& settings = {});
    void exportTo(const QString& path, const task::ExportSettings& settings);

    bool isBusy() const { return kind_ != Kind::none; }
    Kind running() const { return kind_; }
    const QString& job() const { return job_; }  // a few words for the notes line
    void cancel();                               // what is running, and what waits but for saving

    // Documents and photos opened last, the newest first.
    static QStringList recentFiles();
    static void remember(const QString& path);

Q_SIGNALS:
    void busyChanged();
    void progressed(double part);         // 0..1
    void firstLook(const QImage& small);  // of a photo that is still being opened
    void loaded(const std::shared_ptr<dimhem::task::Opened>& opened, const QString& path);
    void photoMissing(const QString& documentPath, const QString& sentence);
    // Something the person must agree to first: `sentence`, and `goOn` does it all the same.
    void asked(const QString& sentence, const QString& answer, const std::function<void()>& goOn);

private:
    struct Job {
        Kind kind;
        QString words;
        std::function<void()> start;
    };
    void add(Job job);
    void startNext();
    void end();
    void read(const QString& path, const std::function<base::Result<task::Opened>(const io::Reading&)>& how,
              bool documentIsThere);
    std::function<void(double)> progress();
    void startFirstLook(const QString& path);
    void saveNow(const QString& path, const std::function<void()>& then, const task::SaveSettings& settings);
    void askAbout(const base::Error& error, const QString& path, const std::function<void()>& then,
                  task::SaveSettings settings);

    Session& session_;
    Kind kind_ = Kind::none;
    QString job_;
    std::deque<Job> waiting_;
    base::CancelSource cancel_;
};

}  // namespace dimhem::ui
