// The grips of a radial gradient: two stitched ovals (full, none), a grip on each half axis, the centre, and one
// outside that turns. Drag the centre to move; drag anywhere else to lay the oval anew from its centre, with Alt from
// its corner. Shift keeps to a circle, or to steps of 15 degrees while turning.
#pragma once

#include "core/mask/radial_gradient.h"
#include "ui/canvas/tool.h"

namespace dimhem::ui {

class RadialTool final : public Tool {
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

    enum class Grip { nothing, centre, width, height, inner, turn, anew };

private:
    Grip gripAt(QPointF screen, const Viewport& viewport) const;
    mask::Oval dragged(const PointerEvent& event) const;
    void show(const mask::Oval& oval);

    mask::Oval start_;
    PointerEvent pressed_;
    Grip grip_ = Grip::nothing;
    bool moved_ = false;
};

}  // namespace dimhem::ui
