// Stopping long work from another thread.
//
// The owner keeps the CancelSource; the work polls the CancelToken at each tile or row block. A default token is
// never cancelled.
//
// What is stopped throws Cancelled, unless its declaration says that it returns otherwise: a value always means that
// the work was done. Work that gives a Result turns Cancelled into its own error (unlessCancelled).
#pragma once

#include <atomic>
#include <cstdint>
#include <memory>

#include "core/base/error.h"

namespace dimhem::base {

class CancelToken {
public:
    CancelToken() = default;
    bool cancelled() const {
        if (!state_) return false;
        if (state_->pollsLeft.load(std::memory_order_relaxed) != State::endless && --state_->pollsLeft < 0)
            state_->cancelled.store(true, std::memory_order_relaxed);
        return state_->cancelled.load(std::memory_order_relaxed);
    }

private:
    friend class CancelSource;
    struct State {
        static constexpr std::int64_t endless = INT64_MAX;
        std::atomic<bool> cancelled{false};
        std::atomic<std::int64_t> pollsLeft{endless};
    };
    explicit CancelToken(std::shared_ptr<State> state) : state_(std::move(state)) {}
    std::shared_ptr<State> state_;
};

struct Cancelled {};

inline void throwIfCancelled(const CancelToken& token) {
    if (token.cancelled()) throw Cancelled();
}

class CancelSource {
public:
    CancelToken token() const { return CancelToken(state_); }
    void cancel() { state_->cancelled.store(true, std::memory_order_relaxed); }
    // For tests, which stop work at each place where it can be stopped: the tokens say so once they have been asked
    // this often.
    void cancelAfter(std::int64_t polls) { state_->pollsLeft = polls; }

private:
    std::shared_ptr<CancelToken::State> state_ = std::make_shared<CancelToken::State>();
};

// Calls `work()`, which gives a Result; where it is stopped, that is the error, said by `sentence`.
template <class Work>
auto unlessCancelled(const std::string& sentence, Work&& work) -> decltype(work()) {
    try {
        return work();
    } catch (const Cancelled&) {
        return fail(ErrorCode::cancelled, "", sentence);
    }
}

}  // namespace dimhem::base
