// What mouse, pen, wheel, fingers and keys do on the canvas: each becomes the same few events of a tool.
#include <QApplication>
#include <QContextMenuEvent>
#include <QDragEnterEvent>
#include <QGestureEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <cmath>

#include "ui/canvas/canvas.h"
#include "ui/session/brush_steps.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

bool Canvas::isHeldBy(Press::By by, Qt::MouseButton button) const {
    return press_ && press_->by == by && press_->button == button;
}

bool Canvas::take(Press::By by, Qt::MouseButton button, QPointF view) {
    if (isHeldBy(by, button)) letGo();  // its end has got lost
    if (press_) return false;
    press_ = Press{by, button, isOnRight(view)};
    return true;
}

void Canvas::letGo() {
    press_.reset();
    if (panFrom_) {
        endPan();
    } else if (pointer_) {
        releaseAt(*pointer_);
    }
}

void Canvas::endPan() {
    panFrom_.reset();
    refreshCursor();
    update();
}

void Canvas::mousePressEvent(QMouseEvent* event) {
    if (!session_.isOpen()) return;
    const bool left = event->button() == Qt::LeftButton, pans = event->button() == Qt::MiddleButton || handHeld_;
    if (!left && event->button() != Qt::MiddleButton) return;
    if (!take(Press::By::mouse, event->button(), event->position())) return;
    if (pans) {
        panFrom_ = event->position();
        refreshCursor();
        update();
    } else {
        pressAt(eventAt(*event));
    }
}

void Canvas::mouseMoveEvent(QMouseEvent* event) {
    if (!session_.isOpen() || isHeldByAnother(Press::By::mouse)) return;
    if (press_ && !(event->buttons() & press_->button)) letGo();
    if (panFrom_) {
        viewport_.pan(event->position() - *panFrom_);
        panFrom_ = event->position();
        viewMoved();
        return;
    }
    keyPointer_.leave();
    moveAt(eventAt(*event));
}

void Canvas::mouseReleaseEvent(QMouseEvent* event) {
    if (!session_.isOpen() || !isHeldBy(Press::By::mouse, event->button())) return;
    const PointerEvent released = eventAt(*event);
    press_.reset();
    panFrom_ ? endPan() : releaseAt(released);
}

// Two taps of a pen are a double click: no such event comes from a tablet.
bool Canvas::isDoublePress(const PointerEvent& event) {
    constexpr double nearPx = 8;
    const auto last = std::exchange(lastPress_, event);
    if (!last || event.timeMs - last->timeMs > static_cast<quint64>(QApplication::doubleClickInterval())) return false;
    const QPointF way = event.screen - last->screen;
    const bool isDouble = std::hypot(way.x(), way.y()) < nearPx;
    if (isDouble) lastPress_.reset();
    return isDouble;
}

// With a brush in hand the buttons of a pen set it, where the pen is, as its key and a drag do: the first its size and
// softness, the second its size and strength.
bool Canvas::pressPenButton(const QTabletEvent& event, const PointerEvent& pen) {
    const bool sets = isBrushing() && showsGrips() && !session_.isComparing() && !session_.asked();
    if (!sets || !take(Press::By::pen, event.button(), event.position())) return false;
    PointerEvent pressed = pen;
    pressed.modifiers.setFlag(Qt::ShiftModifier, event.button() != Qt::RightButton);
    pointer_ = pressed;
    brushDial_.press(pressed);
    update();
    return true;
}

// A button that was only pressed asks for what can be done there, as ever.
bool Canvas::releasePenButton(const QTabletEvent& event, const PointerEvent& pen) {
    if (!isHeldBy(Press::By::pen, event.button())) return false;
    const PointerEvent* pressed = brushDial_.pressedAt();
    const bool stayed = pressed && QLineF(pressed->screen, pen.screen).length() < QApplication::startDragDistance();
    if (stayed) brushDial_.cancel();
    press_.reset();
    if (!stayed) releaseAt(pen);
    update();
    if (stayed && event.button() == Qt::RightButton) Q_EMIT menuWanted(event.globalPosition().toPoint(), pen.place);
    return true;
}

void Canvas::tabletEvent(QTabletEvent* event) {
    if (!session_.isOpen() || handHeld_ || panFrom_) {
        event->ignore();  // comes again as a mouse event
        return;
    }
    const PointerEvent pen = eventAt(*event, pressureFelt(event->pressure()));
    switch (event->type()) {
        case QEvent::TabletPress: {
            if (event->button() != Qt::LeftButton) {
                event->setAccepted(pressPenButton(*event, pen));
                return;
            }
            if (!take(Press::By::pen, Qt::LeftButton, event->position())) break;
            const bool isDouble = isDoublePress(pen);
            pressAt(pen);
            if (isDouble) finishGesture();
            break;
        }
        case QEvent::TabletRelease:
            if (event->button() != Qt::LeftButton) {
                event->setAccepted(releasePenButton(*event, pen));
                return;
            }
            if (!isHeldBy(Press::By::pen, Qt::LeftButton)) break;
            press_.reset();
            releaseAt(pen);
            break;
        default: {
            PointerEvent moved = pen;
            if (isHeldBy(Press::By::pen, Qt::MiddleButton)) moved.modifiers |= Qt::ShiftModifier;
            if (!isHeldByAnother(Press::By::pen)) moveAt(moved);
            break;
        }
    }
    event->accept();
}

// Two fingers on a touchpad, or on a touch screen.
bool Canvas::event(QEvent* event) {
    if (event->type() == QEvent::NativeGesture && session_.isOpen()) {
        const auto* gesture = static_cast<QNativeGestureEvent*>(event);
        if (gesture->gestureType() == Qt::ZoomNativeGesture) zoomBy(1 + gesture->value());
        return true;
    }
    if (event->type() == QEvent::Gesture && session_.isOpen()) {
        if (const QGesture* pinch = static_cast<QGestureEvent*>(event)->gesture(Qt::PinchGesture)) {
            zoomBy(static_cast<const QPinchGesture*>(pinch)->scaleFactor());
            return true;
        }
    }
    return QWidget::event(event);
}

// Alt: its size, with Shift its softness, with Ctrl its strength. Ctrl and Shift: its size too, where Alt is the
// desktop's.
bool Canvas::turnBrush(const QWheelEvent& event) {
    const Qt::KeyboardModifiers held = event.modifiers() & (Qt::ShiftModifier | Qt::ControlModifier | Qt::AltModifier);
    const bool isSize = held == Qt::AltModifier || held == (Qt::ControlModifier | Qt::ShiftModifier);
    const bool isSoftness = held == (Qt::AltModifier | Qt::ShiftModifier),
               isStrength = held == (Qt::AltModifier | Qt::ControlModifier);
    if (!isBrushing() || !showsGrips() || press_ || !(isSize || isSoftness || isStrength)) return false;
    constexpr int notch = 120;
    const QPoint turned = event.angleDelta();  // Alt turns it sideways
    brushTurned_ += turned.y() != 0 ? turned.y() : turned.x();
    const int steps = brushTurned_ / notch;
    brushTurned_ -= steps * notch;
    const BrushTrait trait = isSize ? BrushTrait::size : isSoftness ? BrushTrait::softness : BrushTrait::strength;
    if (steps != 0) session_.setBrush(stepped(session_.brush(), trait, steps));
    return true;
}

void Canvas::wheelEvent(QWheelEvent* event) {
    if (!session_.isOpen()) return;
    if (turnBrush(*event)) {
        event->accept();
        return;
    }
    if (event->modifiers() & Qt::ControlModifier) {
        viewport_.zoomTo(viewport_.zoom() * std::exp2(event->angleDelta().y() / 480.0), inPane(event->position()));
    } else {
        const QPoint turned =
            event->modifiers() & Qt::ShiftModifier ? event->angleDelta().transposed() : event->angleDelta();
        viewport_.pan(event->pixelDelta().isNull() ? QPointF(turned) / 2 : QPointF(event->pixelDelta()));
    }
    event->accept();
    pointer_ = eventAt(*event);
    viewMoved();
}

PointerEvent Canvas::keyEventAt(const QKeyEvent& event) const {
    return eventWith(keyPointer_.at(), event.modifiers(), event.timestamp());
}

bool Canvas::takeKey(QKeyEvent* event, bool pressed) {
    if (!session_.isOpen()) return false;
    const KeyPointer::Does does = keyPointer_.takeKey(*event, pressed, paneSize());
    switch (does) {
        case KeyPointer::Does::nothing: return false;
        case KeyPointer::Does::moves: {
            if (const QPointF by = keyPointer_.pan(paneSize()); viewport_.isCloserThanFit() && !by.isNull()) {
                viewport_.pan(by);
                keyPointer_.moveBy(by);
                viewMoved();
            }
            if (!isHeldByAnother(Press::By::keys)) moveAt(keyEventAt(*event));
            break;
        }
        case KeyPointer::Does::presses:
            if (take(Press::By::keys, Qt::NoButton, {})) pressAt(keyEventAt(*event));
            break;
        case KeyPointer::Does::releases:
            if (!isHeldBy(Press::By::keys)) break;
            press_.reset();
            releaseAt(keyEventAt(*event));
            break;
    }
    update();
    return true;
}

void Canvas::keyPressEvent(QKeyEvent* event) {
    const bool isReturn = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (takeKey(event, true) || (isReturn && finishGesture())) return;
    QWidget::keyPressEvent(event);
}

void Canvas::keyReleaseEvent(QKeyEvent* event) {
    if (!takeKey(event, false)) QWidget::keyReleaseEvent(event);
}

void Canvas::focusInEvent(QFocusEvent* event) {
    focusByKeys_ = event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason;
    update();
}

// What is held down by a key is let go of where the pointer stands.
void Canvas::focusOutEvent(QFocusEvent*) {
    if (isHeldBy(Press::By::keys)) letGo();
    keyPointer_.leave();
    update();
}

void Canvas::leaveEvent(QEvent*) {
    pointer_.reset();
    update();
    Q_EMIT pointerLeft();
}

// By the right button where it is pressed, by key where the key pointer stands, or in the middle. Nothing while the
// hand is at something.
void Canvas::contextMenuEvent(QContextMenuEvent* event) {
    if (!session_.isOpen() || press_ || activeTool()) return;
    const bool byMouse = event->reason() == QContextMenuEvent::Mouse;
    const QPointF at = byMouse                 ? QPointF(event->pos())
                       : keyPointer_.isThere() ? keyPointer_.at()
                                               : QPointF(rect().center());
    Q_EMIT menuWanted(byMouse ? event->globalPos() : mapToGlobal(at.toPoint()), viewport_.toPhoto(inPane(at)));
}

void Canvas::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && asksForNumbers(eventAt(*event))) {
        Q_EMIT numbersWanted(event->globalPosition().toPoint(), viewport_.toPhoto(inPane(event->position())));
        return;
    }
    // The second press of a double click is a press like any other; it closes an outline and ends a wire.
    mousePressEvent(event);
    finishGesture();
}

// A probe, or a grip of a gradient or an oval.
bool Canvas::asksForNumbers(const PointerEvent& event) {
    if (press_ || session_.isComparing() || session_.asked() || !showsGrips()) return false;
    if (!isBrushing() && probes_.at(event.screen, viewport_)) return true;
    Tool* current = tool();
    return current && !current->isActive() && session_.showsGrips() && current->hasGripAt(event.screen);
}

void Canvas::dragEnterEvent(QDragEnterEvent* event) {
    const QList<QUrl> urls = event->mimeData()->urls();
    if (urls.size() == 1 && urls.front().isLocalFile()) event->acceptProposedAction();
}

void Canvas::dropEvent(QDropEvent* event) {
    event->acceptProposedAction();
    Q_EMIT filesDropped(event->mimeData()->urls().front().toLocalFile());
}

}  // namespace dimhem::ui
