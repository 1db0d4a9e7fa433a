// Painting: press and drag for a stroke; Shift and click for a straight stretch from where the last stroke ended.
#pragma once

#include "core/mask/brush.h"
#include "ui/canvas/tool.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class BrushTool final : public Tool {
public:
    using Tool::Tool;

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    mask::StrokePoint pointOf(const PointerEvent& event, bool isFirst);
    bool begin(mask::StrokePtr stroke);
    void finish();
    void paintHeldColour(QPainter& painter, const PointerEvent& pointer) const;
    std::optional<base::Point> straightFrom() const;  // the end of the last stroke of the selected part

    std::shared_ptr<const mask::Brush> brush_;  // the part's strokes without the one in hand
    mask::StrokePtr stroke_;                    // while the gesture runs
    quint64 lastMs_ = 0;                        // for the pen stand-in: pressure from speed
    double standIn_ = 1;
};

}  // namespace dimhem::ui
