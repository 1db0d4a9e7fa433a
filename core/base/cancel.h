// Stopping long work from another thread.
//
// The owner keeps the CancelSource; the work polls the CancelToken at each tile or row block. A default token is
// never cancelled.
#pragma once

#include <atomic>
#include <memory>

namespace dimhem::base {

class CancelToken {
public:
    CancelToken() = default;
    bool cancelled() const { return flag_ && flag_->load(std::memory_order_relaxed); }

private:
    friend class CancelSource;
    explicit CancelToken(std::shared_ptr<const std::atomic<bool>> flag) : flag_(std::move(flag)) {}
    std::shared_ptr<const std::atomic<bool>> flag_;
};

// Thrown by work that was stopped, where it has no other way to say so; parallelFor() catches it.
struct Cancelled {};

inline void throwIfCancelled(const CancelToken& token) {
    if (token.cancelled()) throw Cancelled();
}

class CancelSource {
public:
    CancelToken token() const { return CancelToken(flag_); }
    void cancel() { flag_->store(true, std::memory_order_relaxed); }

private:
    std::shared_ptr<std::atomic<bool>> flag_ = std::make_shared<std::atomic<bool>>(false);
};

}  // namespace dimhem::base
