#include "ui/session/watch.h"

namespace dimhem::ui {

Watch::Watch(const Session& session, int pauseMs, Again again, QObject* owner)
    : QObject(owner), session_(session), mode_(again) {
    pause_.setSingleShot(true);
    pause_.setInterval(pauseMs);
    connect(&pause_, &QTimer::timeout, this, &Watch::dueNow);
}

void Watch::dueNow() {
    if (running_) {
        again_ = true;
    } else {
        Q_EMIT due();
    }
}

void Watch::soon() {
    if (!pause_.isActive()) pause_.start();
}

void Watch::later() {
    pause_.start();
}

void Watch::cancel() {
    cancel_.cancel();
}

void Watch::repeat() {
    if (!running_) return;
    cancel_.cancel();
    again_ = true;
}

}  // namespace dimhem::ui
