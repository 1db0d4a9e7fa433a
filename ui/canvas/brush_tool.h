// Painting: press and drag for a stroke; Shift and click for a straight stretch from where the last stroke ended.
//
// With Ctrl it removes; in a part without strokes it makes the part take away from the mask.
//
// In a correction of a pair (document/pair.h) Alt paints into the other one, and what a stroke gives to the one it
// takes from the other.
//
// A brush that brings something (core/mask/brings.h): Alt and click picks it, the colour there or the place to take
// from, which a thread leads to from the ring. Where the correction has no adjustment that lays it down, one comes with
// the stroke. Pressed again in the same place, healing that finds its place takes the next best.
#pragma once

#include "core/mask/brush.h"
#include "ui/canvas/tool.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class BrushTool final : public Tool {
public:
    using Tool::Tool;

    bool takesAway(const PointerEvent& event) const override;
    bool takesFromItself(const PointerEvent& event) const override;
    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    bool picks(const PointerEvent& event) const;
    mask::StrokePoint pointOf(const PointerEvent& event, bool isFirst);
    // What a stroke takes away elsewhere, as it grows.
    struct Losing {
        EditTarget of;
        std::shared_ptr<const mask::Brush> painted;
        mask::StrokePtr stroke;
    };
    const document::Correction* counterpart(const PointerEvent& event) const;
    std::optional<Losing> losing(const EditTarget& gains, const mask::Stroke& stroke) const;
    void pressInto(const document::Correction& other, mask::BrushSettings brush, const PointerEvent& event);
    bool begin(mask::StrokePtr stroke, std::shared_ptr<const mask::Brush> over,
               std::optional<EditTarget> target = std::nullopt);
    bool goOn(const mask::BrushSettings& brush, const mask::StrokePoint& from);
    // The brush for a stroke that begins at a place; none, with a sentence for the person, where it lacks something.
    std::optional<mask::BrushSettings> brushAt(const PointerEvent& event);
    void pick(base::Point place);
    bool healsAgain(const mask::BrushSettings& brush, base::Point place) const;
    document::DocumentPtr withStroke(mask::StrokePtr stroke) const;
    void paintThread(QPainter& painter, const Viewport& viewport, const PointerEvent& pointer,
                     const QColor& colour) const;
    void finish();
    void paintHeldColour(QPainter& painter, const PointerEvent& pointer) const;
    std::optional<base::Point> straightFrom() const;  // the end of the last stroke of the selected part

    std::shared_ptr<const mask::Brush> brush_;  // the part's strokes without the one in hand
    mask::StrokePtr stroke_;                    // while the gesture runs
    std::optional<Losing> losing_;
    std::optional<document::AdjustmentUse> lays_;  // comes with the stroke, where the correction has none
    quint64 lastMs_ = 0;                           // for the pen stand-in: pressure from speed
    double standIn_ = 1;
};

}  // namespace dimhem::ui
