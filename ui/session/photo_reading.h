// Measuring the open photo in the background, for whoever wants to do something with the outcome.
#pragma once

#include "ui/session/session.h"

namespace dimhem::ui {

// Calls `work()` in the background, then `done(its value)` where it gave one and the same document is still open. Where
// it failed, that is said.
template <class Work, class Done>
void readInBackground(Session& session, Work work, Done done) {
    session.countReading(1);
    session.background().run(&session, std::move(work),
                             [&session, opening = session.opening(), done = std::move(done)](auto outcome) {
                                 session.countReading(-1);
                                 if (session.opening() != opening) return;
                                 if (outcome) {
                                     done(*outcome);
                                 } else if (outcome.error().code != base::ErrorCode::cancelled) {
                                     session.warn(outcome.error());
                                 }
                             });
}

}  // namespace dimhem::ui
