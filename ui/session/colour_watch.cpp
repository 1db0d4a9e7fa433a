#include "ui/session/colour_watch.h"

#include "ui/session/background.h"

namespace dimhem::ui {

ColourWatch::ColourWatch(Session& session, QObject* parent) : QObject(parent), session_(session) {
    pause_.setSingleShot(true);
    pause_.setInterval(40);
    connect(&pause_, &QTimer::timeout, this, &ColourWatch::start);
    const auto soon = [this] {
        if (!pause_.isActive()) pause_.start();
    };
    connect(&session_, &Session::opened, this, soon);
    connect(&session_, &Session::pictureChanged, this, soon);
    connect(&session_, &Session::selectionChanged, this, [this, soon] {
        colours_.reset();
        cancel_.cancel();
        Q_EMIT changed();
        soon();
    });
}

void ColourWatch::start() {
    if (running_) {
        again_ = true;
        return;
    }
    again_ = false;
    if (!session_.isOpen() || !session_.correction()) {
        colours_.reset();
        Q_EMIT changed();
        return;
    }
    running_ = true;
    cancel_ = base::CancelSource();
    const document::Id correction = session_.selectedCorrection();
    runInBackground(
        this,
        [renderer = session_.sharedRenderer(), document = session_.document(), correction, token = cancel_.token()] {
            return task::maskedColours(*renderer, document, correction, token);
        },
        [this, correction](std::optional<task::MaskedColours> colours) {
            running_ = false;
            if (session_.isOpen() && session_.selectedCorrection() == correction) {
                colours_ = std::move(colours);
                Q_EMIT changed();
            }
            if (again_) start();
        });
}

}  // namespace dimhem::ui
