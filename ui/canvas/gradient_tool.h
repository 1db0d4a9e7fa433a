// The grips of a linear gradient: two stitched lines (full, none) joined by a spine.
//
// Drag a line to widen, the spine to move, the end of a line to turn; drag anywhere else to lay the gradient anew.
// Shift keeps to steps of 15 degrees.
#pragma once

#include "core/mask/linear_gradient.h"
#include "ui/canvas/tool.h"

namespace dimhem::ui {

class GradientTool final : public Tool {
public:
    using Tool::Tool;

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    bool hasGripAt(QPointF screen) const override {
        const Grip grip = gripAt(screen, viewport_);
        return grip != Grip::nothing && grip != Grip::anew;
    }
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

    enum class Grip { nothing, fullLine, noneLine, spine, turn, anew };

private:
    Grip gripAt(QPointF screen, const Viewport& viewport) const;
    void show(base::Point full, base::Point none);

    std::shared_ptr<const mask::LinearGradient> start_;
    PointerEvent pressed_;
    Grip grip_ = Grip::nothing;
    bool moved_ = false;
};

}  // namespace dimhem::ui
