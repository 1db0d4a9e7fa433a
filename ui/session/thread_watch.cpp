#include "ui/session/thread_watch.h"

#include "core/task/probe.h"

namespace dimhem::ui {

ThreadWatch::ThreadWatch(Session& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&session_, &Session::documentChanged, this, &ThreadWatch::look);
}

void ThreadWatch::look() {
    const document::Correction* selected = session_.isOpen() ? session_.correction() : nullptr;
    if (!selected || selected->threadColourChosen) return;
    job_.request([renderer = session_.sharedRenderer(), version = session_.document(), correction = selected->id](
                     const base::CancelToken&) { return task::suitableThreadColour(*renderer, version, correction); },
                 [this, opening = session_.opening(), version = session_.document(),
                  correction = selected->id](const base::Result<int>& colour) {
                     if (colour && session_.opening() == opening)
                         session_.takeThreadColour(version, correction, *colour);
                 });
}

}  // namespace dimhem::ui
