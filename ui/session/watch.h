// Work in the background that follows the document: begun a pause after a change, never twice at once, and done again
// where something has changed meanwhile.
//
// due() says when it is time; whoever owns the watch then calls run(), or not. What was asked of one document is not
// told of the next: a result that comes after another was opened is dropped.
#pragma once

#include <QTimer>

#include "core/base/cancel.h"
#include "ui/session/background.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class Watch final : public QObject {
    Q_OBJECT

public:
    enum class Again { atOnce, afterPause };  // when what has to be done again begins

    Watch(const Session& session, int pauseMs, Again again, QObject* owner);

    void soon();    // a pause after the first wish
    void later();   // a pause after the last
    void cancel();  // what runs; it is not done again unless it is wished for
    void repeat();  // what runs is cancelled and done again
    bool isCancelled() const { return cancel_.token().cancelled(); }  // what runs, or ran last
    bool isRunning() const { return running_; }
    bool isUpToDate() const { return !running_ && !again_ && !pause_.isActive(); }

    // `work(token)` away from the window's thread, `done(result)` on it.
    template <class Work, class Done>
    void run(Work work, Done done) {
        running_ = true;
        cancel_ = base::CancelSource();
        runInBackground(
            this, [work = std::move(work), token = cancel_.token()] { return work(token); },
            [this, done = std::move(done), opening = session_.opening()](auto result) {
                running_ = false;
                if (session_.opening() == opening) done(std::move(result));
                if (std::exchange(again_, false)) mode_ == Again::atOnce ? dueNow() : pause_.start();
            });
    }

Q_SIGNALS:
    void due();

private:
    void dueNow();

    const Session& session_;
    Again mode_;
    QTimer pause_;
    base::CancelSource cancel_;
    bool running_ = false, again_ = false;
};

}  // namespace dimhem::ui
