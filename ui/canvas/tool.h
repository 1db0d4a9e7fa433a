// A tool turns what the hand does on the canvas into previews and one step of the session.
//
// The canvas picks the tool of the selected part. While a gesture runs, the tool gets every event; cancel() takes
// it back.
#pragma once

#include <QCursor>
#include <QPainter>

#include "ui/canvas/viewport.h"

namespace dimhem::ui {

struct PointerEvent {
    QPointF screen;
    base::Point place;  // of the photo
    double pressure = 1;
    Qt::KeyboardModifiers modifiers;
};

class Tool {
public:
    virtual ~Tool() = default;

    virtual void press(const PointerEvent& event) = 0;
    virtual void move(const PointerEvent& event) = 0;
    virtual void release(const PointerEvent& event) = 0;
    virtual void cancel() = 0;
    virtual bool isActive() const = 0;  // in the middle of a gesture
    virtual void hover(const PointerEvent&) {}

    // Grips and rings, over the photo. `pointer` is null while the pointer is elsewhere.
    virtual void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const = 0;
    virtual QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const = 0;
};

}  // namespace dimhem::ui
