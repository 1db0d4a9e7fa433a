#include "ui/control/tone_rest.h"

#include <QMouseEvent>

namespace dimhem::ui {

namespace {

constexpr int waitMs = 350;        // a pointer on its way elsewhere shows nothing
constexpr double aboutIt = 0.025;  // of the axis, to either side

}  // namespace

ToneRest::ToneRest(QWidget* control, std::function<std::optional<double>(QPointF)> toneAt)
    : QObject(control), toneAt_(std::move(toneAt)) {
    control->setMouseTracking(true);
    control->installEventFilter(this);
    wait_.setSingleShot(true);
    wait_.setInterval(waitMs);
    connect(&wait_, &QTimer::timeout, this, [this] {
        if (!tone_) return;
        told_ = true;
        Q_EMIT rests(*tone_ - aboutIt, *tone_ + aboutIt);
    });
}

// Once it is told it follows the pointer at once.
void ToneRest::pointAt(std::optional<double> tone) {
    tone_ = tone;
    if (tone && told_) {
        Q_EMIT rests(*tone - aboutIt, *tone + aboutIt);
        return;
    }
    wait_.stop();
    if (tone) {
        wait_.start();
    } else if (std::exchange(told_, false)) {
        Q_EMIT goes();
    }
}

bool ToneRest::eventFilter(QObject* object, QEvent* event) {
    switch (event->type()) {
        case QEvent::MouseMove: {
            const auto& mouse = *static_cast<QMouseEvent*>(event);
            pointAt(mouse.buttons() == Qt::NoButton ? toneAt_(mouse.position()) : std::nullopt);
            break;
        }
        case QEvent::MouseButtonPress:
        case QEvent::Leave:
        case QEvent::Hide: pointAt(std::nullopt); break;
        default: break;
    }
    return QObject::eventFilter(object, event);
}

}  // namespace dimhem::ui
