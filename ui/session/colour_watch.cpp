#include "ui/session/colour_watch.h"

namespace dimhem::ui {

namespace {

constexpr int colourPauseMs = 40;

}  // namespace

ColourWatch::ColourWatch(Session& session, QObject* parent)
    : QObject(parent), session_(session), watch_(session, colourPauseMs, this) {
    connect(&watch_, &Watch::due, this, &ColourWatch::start);
    connect(&session_, &Session::opened, &watch_, &Watch::soon);
    connect(&session_, &Session::pictureChanged, &watch_, &Watch::soon);
    connect(&session_, &Session::selectionChanged, this, [this] {
        colours_.reset();
        watch_.cancel();
        Q_EMIT changed();
        watch_.soon();
    });
}

void ColourWatch::start() {
    if (!session_.isOpen() || !session_.correction()) {
        colours_.reset();
        Q_EMIT changed();
        return;
    }
    const document::Id correction = session_.selectedCorrection();
    using Read = std::pair<std::optional<task::MaskedColours>, std::optional<task::MaskedColours>>;
    watch_.run(
        [renderer = session_.sharedRenderer(), document = session_.document(), correction,
         whole = wantsWhole_](const base::CancelToken& token) {
            Read read{task::maskedColours(*renderer, document, correction, token), std::nullopt};
            if (whole) read.second = task::wholeColours(*renderer, document, token);
            return read;
        },
        [this, correction](base::Result<Read> read) {
            if (!read || session_.selectedCorrection() != correction) return;
            colours_ = std::move(read->first);
            whole_ = std::move(read->second);
            Q_EMIT changed();
        });
}

void ColourWatch::setWantsWhole(bool wants) {
    wantsWhole_ = wants;
    Q_EMIT changed();
    watch_.soon();
}

}  // namespace dimhem::ui
