// Work away from the window's thread, and its outcome back on it.
#pragma once

#include <QCoreApplication>
#include <QPointer>
#include <QThreadPool>
#include <memory>
#include <new>
#include <optional>

#include "core/base/error.h"

namespace dimhem::ui {

// What an exception that leaves some work comes to: an error with a sentence.
base::Error errorOf(const std::exception* exception);

namespace detail {

template <class T>
struct IsResult : std::false_type {};
template <class T>
struct IsResult<base::Result<T>> : std::true_type {};

// The work's value; where it throws, its error, or for work that knows of none an empty value.
template <class Work>
auto outcomeOf(Work& work) -> decltype(work()) {
    using Outcome = decltype(work());
    const auto failed = [](const std::exception* exception) -> Outcome {
        if constexpr (IsResult<Outcome>::value)
            return tl::unexpected(errorOf(exception));
        else
            return Outcome{};
    };
    try {
        return work();
    } catch (const std::exception& exception) {
        return failed(&exception);
    } catch (...) {
        return failed(nullptr);
    }
}

}  // namespace detail

// Calls `work()` on another thread, then `done(result)` on the window's, unless `owner` is gone by then. An exception,
// or want of memory, ends that work and nothing else.
template <class Work, class Done>
void runInBackground(QObject* owner, Work work, Done done) {
    QThreadPool::globalInstance()->start(
        [owner = QPointer<QObject>(owner), work = std::move(work), done = std::move(done)]() mutable {
            auto result = std::make_shared<decltype(work())>(detail::outcomeOf(work));
            QMetaObject::invokeMethod(
                QCoreApplication::instance(),
                [owner, result, done = std::move(done)]() mutable {
                    if (owner) done(std::move(*result));
                },
                Qt::QueuedConnection);
        });
}

}  // namespace dimhem::ui
