// Drawing an outline: drag freehand round the subject, or click from corner to corner; a click on the first point, a
// double click or Enter closes it, and Backspace takes the last click back. Afterwards its points can be dragged, a
// press on the line adds one, Ctrl and a press takes one away, and in a curved outline Shift and a press turns a point
// into a corner and back. Beside it the first press only says that a second
// one draws it anew: an outline is not lost by a slip.
#pragma once

#include "core/mask/outline.h"
#include "ui/canvas/tool.h"

namespace dimhem::ui {

class OutlineTool final : public Tool {
public:
    using Tool::Tool;

    bool takesFromItself(const PointerEvent& event) const override;
    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void hover(const PointerEvent& event) override;
    bool finish();  // closes an outline that is being clicked; false where there is none
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    enum class Doing { freehand, clicking, point };
    bool isDoing(Doing what) const { return isActive() && doing_ == what; }
    int pointAt(QPointF screen) const;
    int lineAt(QPointF screen) const;  // the point after which a press would add one; -1: not on the line
    bool begin(const QString& stepName);
    void takeAway(int point);
    void turnCorner(int point);
    bool mayDrawAnew();
    bool takeBack();
    void addPoint(const base::Point& place);
    void show();
    void end();  // one step where there is an outline, none where there is not

    std::shared_ptr<const mask::Outline> start_;
    std::vector<base::Point> points_;  // being drawn or moved, while the gesture runs
    mask::Joining joining_;            // of these
    base::Point next_;                 // where the next click would go
    QPointF pressedAt_;
    std::weak_ptr<const mask::Outline> warnedOf_;  // that the next press beside it draws it anew
    Doing doing_ = Doing::freehand;
    bool dragged_ = false;
    int point_ = -1;
};

}  // namespace dimhem::ui
