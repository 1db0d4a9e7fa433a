// Work in the background of which only the newest counts: what is asked for while some runs takes the place of whatever
// waits, and begins when that has ended.
#pragma once

#include <functional>

#include "ui/session/background.h"

namespace dimhem::ui {

class Latest {
public:
    Latest(Background& background, QObject* owner) : background_(background), owner_(owner) {}
    ~Latest() { cancel(); }
    Latest(const Latest&) = delete;
    Latest& operator=(const Latest&) = delete;

    // `work(token)` away from the window's thread, then `done(its outcome)` on it, for each piece of work that began.
    // What was cancelled has no other outcome than that, whatever it gave.
    template <class Work, class Done>
    void request(Work work, Done done) {
        auto start = [background = &background_, owner = owner_, state = state_, work = std::move(work),
                      done = std::move(done)] {
            state->running = true;
            state->cancel = base::CancelSource();
            background->run(
                owner, [work, token = state->cancel.token()] { return work(token); },
                [state, done, token = state->cancel.token()](auto outcome) {
                    if (token.cancelled()) outcome = tl::unexpected(cancelledError());
                    state->running = false;
                    if (const auto next = std::exchange(state->next, nullptr)) next();
                    done(std::move(outcome));
                });
        };
        if (state_->running) {
            state_->next = std::move(start);
        } else {
            start();
        }
    }
    void cancelRunning() { state_->cancel.cancel(); }
    void cancel() {
        state_->next = nullptr;
        cancelRunning();
    }
    bool isIdle() const { return !state_->running; }

private:
    // Outlives the owner of the work where that is gone when the work ends.
    struct State {
        bool running = false;
        base::CancelSource cancel;
        std::function<void()> next;
    };
    Background& background_;
    QObject* owner_;
    std::shared_ptr<State> state_ = std::make_shared<State>();
};

}  // namespace dimhem::ui
