#include "ui/session/measuring_watch.h"

#include "core/task/measuring.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

MeasuringWatch::MeasuringWatch(Session& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&session_, &Session::opened, this, [this] {
        cancel_.cancel();
        running_ = false;
        look();
    });
    connect(&session_, &Session::documentChanged, this, &MeasuringWatch::look);
}

void MeasuringWatch::look() {
    if (running_ || !session_.isOpen() || session_.hasGesture()) return;
    const auto next = task::firstUnmeasured(*session_.document());
    if (!next) return;
    running_ = true;
    cancel_ = base::CancelSource();
    readInBackground(
        session_,
        [renderer = session_.sharedRenderer(), document = session_.document(), next = *next, token = cancel_.token()] {
            return task::measured(*renderer, document, next.correction, next.adjustment, {}, token);
        },
        [this, next = *next](const std::optional<adjust::Settings>& found) {
            running_ = false;
            // In mid gesture it would be lost with the version the gesture began from: once it has ended, again.
            if (found && !session_.hasGesture()) session_.takeMeasured(next.correction, next.adjustment, *found);
        });
}

}  // namespace dimhem::ui
