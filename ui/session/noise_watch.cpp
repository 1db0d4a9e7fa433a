#include "ui/session/noise_watch.h"

#include <algorithm>
#include <string_view>

namespace dimhem::ui {

namespace {

constexpr int noisePauseMs = 300;

}  // namespace

NoiseWatch::NoiseWatch(Session& session, QObject* parent)
    : QObject(parent), session_(session), watch_(session, noisePauseMs, this) {
    connect(&watch_, &Watch::due, this, &NoiseWatch::start);
    const auto later = [this] {
        watch_.cancel();
        if (isWanted() || noise_ || watch_.isRunning()) watch_.later();
    };
    connect(&session_, &Session::opened, this, later);
    connect(&session_, &Session::pictureChanged, this, later);
    connect(&session_, &Session::selectionChanged, this, [this, later] {
        if (noise_) {
            noise_.reset();
            Q_EMIT changed();
        }
        later();
    });
}

bool NoiseWatch::isWanted() const {
    if (!session_.isOpen() || !session_.correction()) return false;
    return std::ranges::any_of(session_.correction()->adjustments, [](const document::AdjustmentUse& use) {
        constexpr std::string_view wanted[] = {"noise", "haze", "detail", "missing from the photo"};
        return std::ranges::find(wanted, use.kind->category) != std::end(wanted);
    });
}

void NoiseWatch::start() {
    if (!isWanted()) {
        noise_.reset();
        Q_EMIT changed();
        return;
    }
    const document::Id correction = session_.selectedCorrection();
    watch_.run(
        [renderer = session_.sharedRenderer(), document = session_.document(), correction](
            const base::CancelToken& token) { return task::maskedNoise(*renderer, document, correction, token); },
        [this, correction](base::Result<std::optional<task::MaskedNoise>> noise) {
            if (!noise || session_.selectedCorrection() != correction) return;
            noise_ = std::move(*noise);
            Q_EMIT changed();
        });
}

}  // namespace dimhem::ui
