// Keeps the journal of the open document while it has unsaved work: each step, on a thread of its own, so that the
// window never waits for the disk. Holds the document's lock, to notice another window on it.
#pragma once

#include <QObject>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>

#include "core/io/file_lock.h"
#include "core/task/journal.h"
#include "core/task/state_folder.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class JournalKeeper final : public QObject {
    Q_OBJECT

public:
    // `state` is where journals and locks are kept (core/task/state_folder.h).
    JournalKeeper(Session& session, std::filesystem::path state, QObject* parent = nullptr);
    ~JournalKeeper() override;  // waits until all is on the disk; the journal stays where there is unsaved work

    std::filesystem::path folder() const { return task::journalFolder(state_); }
    void forget(const task::Unsaved& unsaved);
    // The person has dropped the unsaved work, or it is saved: nothing is to be gone on with.
    void dropWork();
    bool isUpToDate() const;
    void waitUntilWritten();

Q_SIGNALS:
    void failed(const QString& sentence);                    // once for each document
    void openElsewhere(const dimhem::io::LockOwner& owner);  // of the document that has just been opened or named

private:
    struct Record {
        document::DocumentPtr version;  // null: the journal is to be removed
        std::string step;
        task::JournalOrigin origin;
    };
    void watch();
    void lockDocument();
    void enqueue(Record record);
    void run();
    void write(const Record& record);

    Session& session_;
    const std::filesystem::path state_;
    std::optional<io::FileLock> lock_;
    std::filesystem::path locked_;
    document::DocumentPtr newest_;  // handed over last
    task::JournalOrigin newestOrigin_;
    bool told_ = false;

    mutable std::mutex mutex_;
    std::condition_variable wake_, idle_;
    std::deque<Record> records_;
    bool busy_ = false, quit_ = false;
    std::optional<task::Journal> journal_;  // the writing thread's
    task::JournalOrigin origin_;            // of that
    std::thread thread_;
};

}  // namespace dimhem::ui
