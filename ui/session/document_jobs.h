// Opening, saving and exporting: the long work with files, in the background, with progress and a cancel that works.
#pragma once

#include <QObject>
#include <QString>
#include <filesystem>

#include "core/task/export.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class DocumentJobs final : public QObject {
    Q_OBJECT

public:
    explicit DocumentJobs(Session& session, QObject* parent = nullptr) : QObject(parent), session_(session) {}
    ~DocumentJobs() override;  // waits for what is running

    // Opens a photo or document in place of what is open. Asks for the photo where a document's is missing.
    void open(const QString& path, const QString& photoInstead = {});
    // Saves the document; `then` is called where that went well.
    void save(const QString& path, std::function<void()> then = {});
    void exportTo(const QString& path, const task::ExportSettings& settings);

    bool isBusy() const { return !job_.isEmpty(); }
    const QString& job() const { return job_; }  // a few words for the notes line
    void cancel() { cancel_.cancel(); }

    // Documents and photos opened last, the newest first.
    static QStringList recentFiles();

Q_SIGNALS:
    void busyChanged();
    void progressed(double part);         // 0..1
    void firstLook(const QImage& small);  // of a photo that is still being opened
    void photoMissing(const QString& documentPath, const QString& sentence);

private:
    void begin(const QString& words);
    void end();
    void startFirstLook(const QString& path);

    Session& session_;
    QString job_;
    base::CancelSource cancel_;
};

}  // namespace dimhem::ui
