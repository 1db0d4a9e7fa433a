#include "ui/session/watch.h"

namespace dimhem::ui {

Watch::Watch(Session& session, int pauseMs, QObject* owner)
    : QObject(owner), session_(session), newest_(session.background(), this) {
    pause_.setSingleShot(true);
    pause_.setInterval(pauseMs);
    connect(&pause_, &QTimer::timeout, this, &Watch::due);
}

void Watch::soon() {
    if (!pause_.isActive()) pause_.start();
}

void Watch::later() {
    pause_.start();
}

void Watch::cancel() {
    newest_.cancel();
}

void Watch::repeat() {
    if (!isRunning()) return;
    newest_.cancel();
    pause_.start();
}

}  // namespace dimhem::ui
