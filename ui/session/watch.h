// Work in the background that follows the document: begun a pause after a change, never twice at once, and done again
// where something has changed meanwhile.
//
// due() says when it is time; whoever owns the watch then calls run(), or not. What was asked of one document is not
// told of the next: an outcome that comes after another was opened is dropped.
#pragma once

#include <QTimer>

#include "ui/session/latest.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class Watch final : public QObject {
    Q_OBJECT

public:
    Watch(Session& session, int pauseMs, QObject* owner);

    void soon();    // a pause after the first wish
    void later();   // a pause after the last
    void cancel();  // what runs and what waits; it is not done again unless it is wished for
    void repeat();  // what runs is cancelled and done again after a pause
    bool isRunning() const { return !newest_.isIdle(); }
    bool isUpToDate() const { return !isRunning() && !pause_.isActive(); }

    // `work(token)` away from the window's thread, `done(its outcome)` on it (latest.h).
    template <class Work, class Done>
    void run(Work work, Done done) {
        newest_.request(std::move(work), [this, done = std::move(done), opening = session_.opening()](auto outcome) {
            if (session_.opening() == opening) done(std::move(outcome));
        });
    }

Q_SIGNALS:
    void due();

private:
    Session& session_;
    QTimer pause_;
    Latest newest_;
};

}  // namespace dimhem::ui
