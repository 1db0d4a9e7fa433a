#include "ui/session/measuring_watch.h"

#include <algorithm>

#include "core/task/measuring.h"

namespace dimhem::ui {

namespace {

constexpr int pauseMs = 60;

// The first that measures by itself, measured again; and those that do not.
struct Again {
    std::optional<task::Stale> which;
    task::Measured found{};
    QSet<document::Id> stale;
};

Again lookedAgain(const render::Renderer& renderer, const document::DocumentPtr& document,
                  const base::CancelToken& token) {
    Again again;
    for (const task::Stale& stale : task::staleIn(renderer, document, token)) {
        const document::Correction& correction = *document::findCorrection(*document, stale.correction);
        if (!task::measuresByItself(*document::findAdjustment(correction, stale.adjustment)->kind)) {
            again.stale.insert(stale.adjustment);
        } else if (!again.which) {
            if (auto found = task::measured(renderer, document, stale.correction, stale.adjustment, {}, token)) {
                again.which = stale;
                again.found = std::move(*found);
            }
        }
    }
    return again;
}

bool anyMeasured(const document::Document& document) {
    return std::ranges::any_of(document.corrections, [](const document::CorrectionPtr& correction) {
        return std::ranges::any_of(correction->adjustments,
                                   [](const document::AdjustmentUse& use) { return use.measuredUnder.has_value(); });
    });
}

}  // namespace

MeasuringWatch::MeasuringWatch(Session& session, QObject* parent)
    : QObject(parent), session_(session), watch_(session, 0, this), again_(session, pauseMs, this) {
    connect(&watch_, &Watch::due, this, &MeasuringWatch::look);
    connect(&again_, &Watch::due, this, &MeasuringWatch::lookAgain);
    connect(&session_, &Session::opened, this, [this] {
        watch_.cancel();
        again_.cancel();
        tellStale({});
        watch_.soon();
        again_.later();
    });
    connect(&session_, &Session::documentChanged, &watch_, &Watch::soon);
    connect(&session_, &Session::documentChanged, this, [this] {
        again_.repeat();
        again_.later();
    });
}

void MeasuringWatch::tellStale(QSet<document::Id> stale) {
    if (stale == stale_) return;
    stale_ = std::move(stale);
    Q_EMIT staleChanged();
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
        [this, next = *next](const base::Result<std::optional<task::Measured>>& found) {
            // In mid gesture it would be lost with the version the gesture began from: once it has ended, again.
            if (found && *found && !session_.hasGesture())
                session_.takeMeasured(next.correction, next.adjustment, (*found)->settings, (*found)->under);
        });
}

void MeasuringWatch::lookAgain() {
    if (!session_.isOpen() || session_.hasGesture() || task::firstUnmeasured(*session_.document())) return;
    if (!anyMeasured(*session_.document())) return tellStale({});
    again_.run([renderer = session_.sharedRenderer(), document = session_.document()](
                   const base::CancelToken& token) { return lookedAgain(*renderer, document, token); },
               [this, version = session_.document()](const base::Result<Again>& again) {
                   if (!again) return;
                   tellStale(again->stale);
                   if (again->which)
                       session_.takeMeasuredAgain(version, again->which->correction, again->which->adjustment,
                                                  again->found.settings, again->found.under);
               });
}

}  // namespace dimhem::ui
