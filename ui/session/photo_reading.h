// Measuring the open photo in the background, for whoever wants to do something with the outcome.
#pragma once

#include "ui/session/background.h"
#include "ui/session/session.h"

namespace dimhem::ui {

// As runInBackground(), but `done` is called only where the same document is still open.
template <class Work, class Done>
void readInBackground(Session& session, Work work, Done done) {
    session.countReading(1);
    runInBackground(&session, std::move(work),
                    [&session, opening = session.opening(), done = std::move(done)](auto result) {
                        session.countReading(-1);
                        if (session.opening() == opening) done(result);
                    });
}

}  // namespace dimhem::ui
