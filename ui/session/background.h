// Work away from the window's thread, and its outcome back on it.
#pragma once

#include <QCoreApplication>
#include <QPointer>
#include <QThreadPool>
#include <memory>

namespace dimhem::ui {

// Calls `work()` on another thread, then `done(result)` on the window's, unless `owner` is gone by then.
template <class Work, class Done>
void runInBackground(QObject* owner, Work work, Done done) {
    QThreadPool::globalInstance()->start(
        [owner = QPointer<QObject>(owner), work = std::move(work), done = std::move(done)]() mutable {
            auto result = std::make_shared<decltype(work())>(work());
            QMetaObject::invokeMethod(
                QCoreApplication::instance(),
                [owner, result, done = std::move(done)]() mutable {
                    if (owner) done(std::move(*result));
                },
                Qt::QueuedConnection);
        });
}

}  // namespace dimhem::ui
