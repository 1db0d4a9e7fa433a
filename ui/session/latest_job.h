// Work in the background of which only the newest counts: what is asked for while some runs takes the place of whatever
// waits.
#pragma once

#include "ui/session/background.h"

namespace dimhem::ui {

class LatestJob {
public:
    explicit LatestJob(QObject* owner) : owner_(owner) {}

    // As runInBackground(); `done` is called for each piece of work that ran.
    template <class Work, class Done>
    void request(Work work, Done done) {
        const auto start = [owner = owner_, state = state_, work = std::move(work), done = std::move(done)] {
            state->running = true;
            runInBackground(owner, work, [state, done](auto result) {
                state->running = false;
                if (const auto next = std::exchange(state->next, nullptr)) next();
                done(std::move(result));
            });
        };
        state_->running ? void(state_->next = start) : start();
    }
    bool isIdle() const { return !state_->running; }

private:
    struct State {
        bool running = false;
        std::function<void()> next;
    };
    QObject* owner_;
    std::shared_ptr<State> state_ = std::make_shared<State>();
};

}  // namespace dimhem::ui
