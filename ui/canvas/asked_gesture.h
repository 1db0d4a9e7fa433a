// What the session asks for on the photo, a place or an area: follows the drag, answers, and says in words what is
// wanted.
#pragma once

#include <QPainter>
#include <optional>

#include "ui/canvas/tool.h"

namespace dimhem::ui {

class AskedGesture {
public:
    explicit AskedGesture(Session& session) : session_(session) {}

    bool isDragging() const { return from_.has_value(); }
    void press(const PointerEvent& event);
    void move(const PointerEvent& event);
    void release(const PointerEvent& event);
    bool cancel();  // false where nothing was asked
    void forget() { from_.reset(); }
    void paint(QPainter& painter, const PointerEvent* pointer, int viewWidth) const;

private:
    PhotoDrag dragTo(const PointerEvent& event) const;

    Session& session_;
    std::optional<PointerEvent> from_;  // where the drag began
};

}  // namespace dimhem::ui
