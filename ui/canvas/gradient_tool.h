// The grips of a linear gradient: two stitched lines (full, none) joined by a spine.
//
// Drag a line to widen, the spine to move, the end of a line to turn; drag anywhere else to lay the gradient anew.
// Shift keeps to steps of 15 degrees.
#pragma once

#include "core/mask/linear_gradient.h"
#include "ui/canvas/tool.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class GradientTool final : public Tool {
public:
    GradientTool(Session& session, const Viewport& viewport) : session_(session), viewport_(viewport) {}

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void cancel() override;
    bool isActive() const override { return grip_ != Grip::nothing; }
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

    enum class Grip { nothing, fullLine, noneLine, spine, turn, anew };

private:
    std::shared_ptr<const mask::LinearGradient> gradient() const;
    Grip gripAt(QPointF screen, const Viewport& viewport) const;
    void show(base::Point full, base::Point none);

    Session& session_;
    const Viewport& viewport_;  // the canvas's own
    document::DocumentPtr before_;
    std::shared_ptr<const mask::LinearGradient> start_;
    PointerEvent pressed_;
    Grip grip_ = Grip::nothing;
    bool moved_ = false;
};

}  // namespace dimhem::ui
