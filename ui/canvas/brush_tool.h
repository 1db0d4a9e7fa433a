// Painting: press and drag for a stroke; Shift and click for a straight stretch from where the last stroke ended.
#pragma once

#include "core/mask/brush.h"
#include "ui/canvas/tool.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class BrushTool final : public Tool {
public:
    explicit BrushTool(Session& session) : session_(session) {}

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void cancel() override;
    bool isActive() const override { return stroke_ != nullptr; }
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    void show();
    std::optional<base::Point> straightFrom() const;  // the end of the last stroke of the selected part

    Session& session_;
    document::DocumentPtr before_;              // the version without the stroke
    std::shared_ptr<const mask::Brush> brush_;  // the part's strokes without it
    mask::StrokePtr stroke_;
};

}  // namespace dimhem::ui
