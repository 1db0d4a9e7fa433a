// The brush set where it is used: with its key held, a drag makes it larger and softer, or with Shift stronger. The
// ring stays where the hand pressed, with the numbers beside it.
#pragma once

#include "ui/canvas/tool.h"

namespace dimhem::ui {

class BrushDial {
public:
    explicit BrushDial(Session& session) : session_(session) {}

    void setHeld(bool held) { held_ = held; }  // a drag that has begun goes on until its button is up
    bool isHeld() const { return held_; }
    bool isActive() const { return pressed_.has_value(); }
    void press(const PointerEvent& event);
    void move(const PointerEvent& event);
    void release() { pressed_.reset(); }
    void cancel();  // the brush as it was
    void paint(QPainter& painter) const;
    const PointerEvent* pressedAt() const { return pressed_ ? &*pressed_ : nullptr; }  // null: nothing is dragged

private:
    Session& session_;
    bool held_ = false;
    std::optional<PointerEvent> pressed_;
    mask::BrushSettings before_;
};

}  // namespace dimhem::ui
