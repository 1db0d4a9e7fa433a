#include "ui/session/measuring_watch.h"

#include "core/task/measuring.h"

namespace dimhem::ui {

MeasuringWatch::MeasuringWatch(Session& session, QObject* parent)
    : QObject(parent), session_(session), watch_(session, 0, this) {
    connect(&watch_, &Watch::due, this, &MeasuringWatch::look);
    connect(&session_, &Session::opened, this, [this] {
        watch_.cancel();
        watch_.soon();
    });
    connect(&session_, &Session::documentChanged, &watch_, &Watch::soon);
}

void MeasuringWatch::look() {
    if (watch_.isRunning() || !session_.isOpen() || session_.hasGesture()) return;
    const auto next = task::firstUnmeasured(*session_.document());
    if (!next) return;
    watch_.run(
        [renderer = session_.sharedRenderer(), document = session_.document(),
         next = *next](const base::CancelToken& token) {
            return task::measured(*renderer, document, next.correction, next.adjustment, {}, token);
        },
        [this, next = *next](const base::Result<std::optional<adjust::Settings>>& found) {
            // In mid gesture it would be lost with the version the gesture began from: once it has ended, again.
            if (found && *found && !session_.hasGesture())
                session_.takeMeasured(next.correction, next.adjustment, **found);
        });
}

}  // namespace dimhem::ui
