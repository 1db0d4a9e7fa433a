#include "ui/session/zoom_to.h"

#include "core/task/covered_bounds.h"

namespace dimhem::ui {

ZoomTo::ZoomTo(Session& session, const HemWatch& hem, QObject* parent)
    : QObject(parent), session_(session), hem_(hem), reader_(session.background(), this) {
    connect(&session_, &Session::selectionChanged, this, [this] { wasPart_ = false; });
    connect(&session_, &Session::opened, this, [this] { wasPart_ = false; });
}

void ZoomTo::next() {
    if (!session_.isOpen() || session_.hasGesture()) return;
    if (!session_.correction()) return session_.say(tr("Select a correction first: its mask is what is looked for."));
    if (hem_.finding()) {
        Q_EMIT found(hem_.finding()->bounds);
        return;
    }
    const bool isOnlyPart = session_.correction()->mask.parts.size() < 2;
    wasPart_ = !wasPart_ && !isOnlyPart && session_.part();
    lookFor(wasPart_ ? session_.selectedPart() : 0);
}

void ZoomTo::lookFor(mask::PartId part) {
    reader_.request(
        [renderer = session_.sharedRenderer(), document = session_.document(), part,
         correction = session_.selectedCorrection()](const base::CancelToken& token) {
            return task::coveredBounds(*renderer, document, correction, part, token);
        },
        [this, opening = session_.opening()](const base::Result<std::optional<base::Rect>>& bounds) {
            // Not under a hand that has begun something meanwhile.
            if (session_.opening() != opening || !bounds || session_.hasGesture()) return;
            if (*bounds) {
                Q_EMIT found(**bounds);
            } else {
                session_.say(tr("The mask covers nothing yet."));
            }
        });
}

}  // namespace dimhem::ui
