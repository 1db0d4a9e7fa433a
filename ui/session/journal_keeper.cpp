#include "ui/session/journal_keeper.h"

namespace dimhem::ui {

JournalKeeper::JournalKeeper(Session& session, std::filesystem::path state, QObject* parent)
    : QObject(parent), session_(session), state_(std::move(state)) {
    connect(&session_, &Session::opened, this, [this] {
        if (newest_) dropWork();  // of the document before
        told_ = false;
        lockDocument();
        watch();
    });
    connect(&session_, &Session::documentChanged, this, &JournalKeeper::watch);
    connect(&session_, &Session::threadColourChanged, this, &JournalKeeper::watch);
    connect(&session_, &Session::savedChanged, this, [this] {
        lockDocument();
        watch();
    });
    connect(this, &JournalKeeper::failed, &session_, [this](const QString& sentence) {
        if (!std::exchange(told_, true)) session_.warn(sentence);
    });
    thread_ = std::thread([this] { run(); });
}

JournalKeeper::~JournalKeeper() {
    {
        const std::lock_guard lock(mutex_);
        quit_ = true;
    }
    wake_.notify_one();
    thread_.join();
}

// The version without the gesture in hand: that is what may be lost.
void JournalKeeper::watch() {
    if (!session_.isOpen() || session_.hasGesture()) return;
    if (session_.isSaved()) {
        if (newest_) dropWork();
        return;
    }
    const document::DocumentPtr& version = session_.document();
    const task::JournalOrigin origin{session_.origin().documentPath, session_.origin().photoPath};
    if (version == newest_ && origin == newestOrigin_) return;
    newest_ = version;
    newestOrigin_ = origin;
    const QString step = session_.canUndo() ? session_.undoName() : tr("as it was opened");
    enqueue({version, step.toStdString(), origin});
}

void JournalKeeper::dropWork() {
    newest_ = nullptr;
    enqueue({});
}

void JournalKeeper::lockDocument() {
    const std::filesystem::path document = session_.isOpen() ? session_.origin().documentPath : std::filesystem::path();
    if (document == locked_) return;
    locked_ = document;
    lock_.reset();
    if (document.empty()) return;
    const auto place = task::lockFileFor(state_, document);
    lock_ = io::FileLock::take(place);
    if (lock_) return;
    if (const auto owner = io::ownerOf(place)) Q_EMIT openElsewhere(*owner);
}

void JournalKeeper::forget(const task::Unsaved& unsaved) {
    std::error_code ignored;
    std::filesystem::remove(unsaved.journal, ignored);
}

void JournalKeeper::enqueue(Record record) {
    {
        const std::lock_guard lock(mutex_);
        // Only the newest matters where the disk is slow: what it says includes the ones before.
        const bool isStep = record.version != nullptr;
        if (isStep && !records_.empty() && records_.back().version) records_.pop_back();
        records_.push_back(std::move(record));
    }
    wake_.notify_one();
}

bool JournalKeeper::isUpToDate() const {
    const std::lock_guard lock(mutex_);
    return records_.empty() && !busy_;
}

void JournalKeeper::waitUntilWritten() {
    std::unique_lock lock(mutex_);
    idle_.wait(lock, [this] { return records_.empty() && !busy_; });
}

void JournalKeeper::run() {
    std::unique_lock lock(mutex_);
    while (true) {
        wake_.wait(lock, [this] { return quit_ || !records_.empty(); });
        if (records_.empty()) return;
        const Record record = std::move(records_.front());
        records_.pop_front();
        busy_ = true;
        lock.unlock();
        write(record);
        lock.lock();
        busy_ = false;
        idle_.notify_all();
    }
}

void JournalKeeper::write(const Record& record) {
    if (!record.version) {
        if (journal_) journal_->remove();
        journal_.reset();
        return;
    }
    base::Result<void> written;
    try {
        if (journal_ && record.origin == origin_) {
            written = journal_->append(*record.version, record.step);
        } else {
            auto made = task::Journal::create(task::journalFolder(state_), record.origin, *record.version, record.step);
            if (!made) {
                written = tl::unexpected(made.error());
            } else {
                if (journal_) journal_->remove();  // the document has another place now
                journal_ = std::move(*made);
                origin_ = record.origin;
            }
        }
    } catch (const std::exception& exception) {
        written = base::fail(base::ErrorCode::failed, "", exception.what());
    }
    if (written) return;
    journal_.reset();  // the next step begins another
    Q_EMIT failed(tr("Unsaved work cannot be kept for the case of a crash: %1")
                      .arg(QString::fromStdString(written.error().message)));
}

}  // namespace dimhem::ui
