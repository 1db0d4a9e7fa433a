// A tool turns what the hand does on the canvas into a gesture of the session, and so into previews and one step.
//
// The canvas picks the tool of the selected part. While a gesture runs, the tool gets every event; cancel() takes
// it back. Whatever else ends the gesture ends what the tool is doing: it keeps nothing of its own beside it.
#pragma once

#include <QCursor>
#include <QPainter>

#include "core/document/edits.h"
#include "ui/canvas/viewport.h"
#include "ui/session/session.h"

namespace dimhem::ui {

struct PointerEvent {
    QPointF screen;
    base::Point place;  // of the photo
    double pressure = 1;
    Qt::KeyboardModifiers modifiers;
    quint64 timeMs = 0;      // as the event says; only differences mean something
    bool takesAway = false;  // Ctrl, or the other end of a pen: what the tool would add is taken away
    bool picks = false;      // Alt, or the key of picking held: what the tool works with is picked from the photo
    bool drawsAnew = false;  // nothing that is there already is taken hold of
};

class Tool {
public:
    Tool(Session& session, const Viewport& viewport) : session_(session), viewport_(viewport) {}
    virtual ~Tool() = default;

    // Whether a press would take something away, and whether the part itself can hold that; else the canvas prepares a
    // part that does, and the press draws in it as if it added.
    virtual bool takesAway(const PointerEvent& event) const { return event.takesAway; }
    virtual bool takesFromItself(const PointerEvent&) const { return false; }
    virtual void press(const PointerEvent& event) = 0;
    virtual void move(const PointerEvent& event) = 0;
    virtual void release(const PointerEvent& event) = 0;
    virtual void hover(const PointerEvent&) {}
    virtual void cancel() { gesture_.giveUp(); }
    virtual bool isActive() const { return gesture_.isRunning(); }

    // Whether a press there would take hold of something whose numbers can be typed.
    virtual bool hasGripAt(QPointF) const { return false; }

    // Grips and rings, over the photo. `pointer` is null while the pointer is elsewhere.
    virtual void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const = 0;
    virtual QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const = 0;

protected:
    // The shape that is worked on, where it is of that kind.
    template <class T>
    std::shared_ptr<const T> selected() const {
        return std::dynamic_pointer_cast<const T>(session_.workedOnShape());
    }
    // The version the gesture began from, with another shape in the part it began on.
    document::DocumentPtr withShape(const mask::ShapePtr& shape) const {
        return document::withPart(*gesture_.base(), gesture_.target().correction, gesture_.target().part,
                                  [&](mask::Part& part) { part.*gesture_.target().of = shape; });
    }

    Session& session_;
    const Viewport& viewport_;  // the canvas's own
    Gesture gesture_;
};

}  // namespace dimhem::ui
