// Painting: press and drag for a stroke; Shift and click for a straight stretch from where the last stroke ended.
#pragma once

#include <QElapsedTimer>

#include "core/mask/brush.h"
#include "ui/canvas/tool.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class BrushTool final : public Tool {
public:
    BrushTool(Session& session, const Viewport& viewport) : session_(session), viewport_(viewport) {}

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void cancel() override;
    bool isActive() const override { return stroke_ != nullptr; }
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    mask::StrokePoint pointOf(const PointerEvent& event);
    document::DocumentPtr withStroke(const mask::StrokePtr& stroke) const;
    void show();
    void paintHeldColour(QPainter& painter, const PointerEvent& pointer) const;
    std::optional<base::Point> straightFrom() const;  // the end of the last stroke of the selected part

    Session& session_;
    const Viewport& viewport_;                  // the canvas's own
    document::DocumentPtr before_;              // the version without the stroke
    std::shared_ptr<const mask::Brush> brush_;  // the part's strokes without it
    mask::StrokePtr stroke_;
    QElapsedTimer sinceLast_;  // for the pen stand-in: pressure from speed
    double standIn_ = 1;
};

}  // namespace dimhem::ui
