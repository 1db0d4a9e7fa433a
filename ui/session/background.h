// Work away from the window's thread, and what it came to back on it.
//
// Work ends in one of three ways: it gives its value, it was cancelled, or it failed. All of them are told as a
// base::Result, so that whoever begins work says what becomes of each; no exception leaves a thread's function.
#pragma once

#include <QCoreApplication>
#include <QPointer>
#include <QThreadPool>
#include <memory>
#include <new>

#include "core/base/cancel.h"
#include "core/base/error.h"
#include "core/base/parallel.h"

namespace dimhem::ui {

// What an exception that leaves some work comes to: an error with a sentence. Null: one that is no std::exception.
base::Error errorOf(const std::exception* exception);
base::Error cancelledError();

namespace detail {

template <class T>
struct ResultOf {
    using Type = base::Result<T>;
};
template <class T>
struct ResultOf<base::Result<T>> {
    using Type = base::Result<T>;
};

}  // namespace detail

// Calls `work()`; its value, or what it threw as an error. Cancelled is the error of that code.
template <class Work>
auto outcomeOf(Work&& work) -> typename detail::ResultOf<decltype(work())>::Type {
    try {
        if constexpr (std::is_void_v<decltype(work())>) {
            work();
            return {};
        } else {
            return work();
        }
    } catch (const base::Cancelled&) {
        return tl::unexpected(cancelledError());
    } catch (const std::exception& exception) {
        return tl::unexpected(errorOf(&exception));
    } catch (...) {
        return tl::unexpected(errorOf(nullptr));
    }
}

// The program's own threads for such work. Not Qt's global pool: Qt paints over that one, and the window would wait
// for whatever runs there.
class Background {
public:
    Background();
    ~Background();  // waits for what runs

    // Calls `work()` on another thread, then `done(outcomeOf(work))` on the window's, unless `owner` is gone by then.
    template <class Work, class Done>
    void run(QObject* owner, Work work, Done done) {
        threads_.start([owner = QPointer<QObject>(owner), work = std::move(work), done = std::move(done)]() mutable {
            base::giveWay();
            auto outcome = std::make_shared<decltype(outcomeOf(work))>(outcomeOf(work));
            QMetaObject::invokeMethod(
                QCoreApplication::instance(),
                [owner, outcome, done = std::move(done)]() mutable {
                    if (owner) done(std::move(*outcome));
                },
                Qt::QueuedConnection);
        });
    }
    void wait() { threads_.waitForDone(); }
    int threadCount() const { return threads_.maxThreadCount(); }

private:
    QThreadPool threads_;
};

}  // namespace dimhem::ui
