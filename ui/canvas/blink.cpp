#include "ui/canvas/blink.h"

#include <QApplication>
#include <QEvent>

#include "ui/session/preferences.h"

namespace dimhem::ui {

Blink::Blink(Session& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&timer_, &QTimer::timeout, this, [this] {
        other_ = !other_;
        timer_.setInterval(blinkMs());
        Q_EMIT turned();
    });
    connect(&session_, &Session::viewChanged, this, &Blink::follow);
    connect(&session_, &Session::opened, this, &Blink::follow);
    connect(&session_, &Session::pictureChanged, this, [this] {
        if (session_.look() == Look::blink) session_.setLook(Look::result);
    });
}

void Blink::follow() {
    const bool blinks = session_.isOpen() && session_.look() == Look::blink;
    if (blinks == timer_.isActive()) return;
    other_ = false;
    if (blinks) {
        timer_.start(blinkMs());
        qApp->installEventFilter(this);
    } else {
        timer_.stop();
        qApp->removeEventFilter(this);
    }
    Q_EMIT turned();
}

// A press anywhere ends it and does what it does; a key that compares is for the session to say.
bool Blink::eventFilter(QObject*, QEvent* event) {
    switch (event->type()) {
        case QEvent::MouseButtonPress:
        case QEvent::TabletPress:
        case QEvent::Wheel:
        case QEvent::ApplicationDeactivate: session_.setLook(Look::result); break;
        default: break;
    }
    return false;
}

}  // namespace dimhem::ui
