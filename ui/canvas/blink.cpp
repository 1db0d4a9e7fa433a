#include "ui/canvas/blink.h"

#include <QApplication>
#include <QKeyEvent>

#include "ui/session/key_table.h"
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

// A press anywhere ends it and does what it does; so does any key but its own, which switches it off itself.
bool Blink::eventFilter(QObject*, QEvent* event) {
    switch (event->type()) {
        case QEvent::MouseButtonPress:
        case QEvent::TabletPress:
        case QEvent::Wheel:
        case QEvent::ApplicationDeactivate: session_.setLook(Look::result); break;
        case QEvent::ShortcutOverride:
        case QEvent::KeyPress: {
            const auto& key = *static_cast<const QKeyEvent*>(event);
            const bool isModifier = key.key() >= Qt::Key_Shift && key.key() <= Qt::Key_ScrollLock;
            if (!isModifier && QKeySequence(key.keyCombination()) != keyOf("blink")) session_.setLook(Look::result);
            break;
        }
        default: break;
    }
    return false;
}

}  // namespace dimhem::ui
