#include "ui/session/noise_watch.h"

#include <algorithm>
#include <string_view>

#include "ui/session/background.h"

namespace dimhem::ui {

NoiseWatch::NoiseWatch(Session& session, QObject* parent) : QObject(parent), session_(session) {
    pause_.setSingleShot(true);
    pause_.setInterval(300);
    connect(&pause_, &QTimer::timeout, this, &NoiseWatch::start);
    const auto later = [this] {
        cancel_.cancel();
        if (isWanted() || noise_ || running_) pause_.start();
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
    if (running_) {
        again_ = true;
        return;
    }
    again_ = false;
    if (!isWanted()) {
        noise_.reset();
        Q_EMIT changed();
        return;
    }
    running_ = true;
    cancel_ = base::CancelSource();
    const document::Id correction = session_.selectedCorrection();
    runInBackground(
        this,
        [renderer = session_.sharedRenderer(), document = session_.document(), correction, token = cancel_.token()] {
            return task::maskedNoise(*renderer, document, correction, token);
        },
        [this, correction, token = cancel_.token()](std::optional<task::MaskedNoise> noise) {
            running_ = false;
            if (session_.isOpen() && session_.selectedCorrection() == correction && !token.cancelled()) {
                noise_ = std::move(noise);
                Q_EMIT changed();
            }
            if (again_) start();
        });
}

}  // namespace dimhem::ui
