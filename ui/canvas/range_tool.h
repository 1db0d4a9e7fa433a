// Setting a range on the photo itself.
//
// Colour range: a click adds the colour there, Ctrl+click takes the nearest pick away, a drag averages an area. By hue,
// a click sets the band about the hue there. Luminosity range: press on a tone and drag: up and down moves the range to
// it and widens it.
#pragma once

#include "core/colour/types.h"
#include "core/mask/colour_range.h"
#include "core/mask/luminosity_range.h"
#include "ui/canvas/tool.h"
#include "ui/session/latest_job.h"

namespace dimhem::ui {

class RangeTool final : public Tool {
public:
    RangeTool(Session& session, const Viewport& viewport) : Tool(session, viewport) {}

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent&, const Viewport&) const override { return Qt::CrossCursor; }

    bool isReading() const { return !reader_.isIdle(); }

private:
    // What the hand asks for, as one value: colours are read in the background, and the answer may come when the hand
    // has gone on or has let go.
    struct Ask {
        EditTarget target;
        QString stepName;
        mask::ShapePtr start;
        base::Point middle;
        int radiusPx = 0;
        double awayPx = 0;  // from where the hand pressed, on screen
    };
    Ask askAt(const PointerEvent& event) const;
    void read(const Ask& ask);
    void take(const Ask& ask, const std::optional<colour::LinearRgb>& colour);
    void removeNearestPick(base::Point place);

    LatestJob reader_{&session_};
    mask::ShapePtr start_;
    PointerEvent pressed_, last_;
    std::optional<colour::LinearRgb> tone_;  // of a luminosity range: read once, where the hand pressed
    bool released_ = false;                  // the hand let go; what is still being read ends the gesture
};

}  // namespace dimhem::ui
