// Setting a range on the photo itself.
//
// Colour range: a click adds the colour there, Ctrl and a click on a pick takes it away, a drag averages an area. By
// hue, a click sets the band about the hue there. Luminosity range and haze depth: press on a tone, or on what lies in
// haze, and drag away from it to widen the range. Veil density: press where the veil is densest; with Alt where there
// is none.
#pragma once

#include "core/colour/types.h"
#include "core/mask/colour_range.h"
#include "core/mask/haze_depth.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/veil_density.h"
#include "ui/canvas/tool.h"
#include "ui/session/latest.h"

namespace dimhem::ui {

class RangeTool final : public Tool {
public:
    RangeTool(Session& session, const Viewport& viewport) : Tool(session, viewport) {}

    bool takesFromItself(const PointerEvent& event) const override;
    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void cancel() override;
    bool isActive() const override { return pick_ && pick_->gesture.isRunning() && !pick_->released; }
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent&, const Viewport&) const override { return Qt::CrossCursor; }

private:
    struct Reading {
        colour::LinearRgb colour;
        double hazePct = 0;  // where haze is what is measured
    };
    // One press and what came of it: colours are read in the background, and the answer may come when the hand has gone
    // on, has let go, or has begun something else.
    struct Pick {
        explicit Pick(Session& session) : reader(session.background(), &session) {}
        Gesture gesture;
        EditTarget target;
        QString stepName;
        mask::ShapePtr start;
        Latest reader;
        PointerEvent pressed, last;
        std::optional<Reading> read;  // what a range of tones or haze is laid about: where the hand pressed
        bool released = false;
    };
    using PickPtr = std::shared_ptr<Pick>;
    struct Place {
        base::Point middle;
        int radiusPx = 0;
    };
    bool isOnPick(const PointerEvent& event) const;
    static double awayPx(const Pick& pick);
    static Place placeOf(const Pick& pick);
    void read(const PickPtr& pick);
    void take(const PickPtr& pick, const Place& place, const std::optional<Reading>& reading);
    static mask::ShapePtr laidAbout(const Pick& pick, const mask::ShapePtr& shape, const Reading& reading);
    void removeNearestPick(base::Point place);

    PickPtr pick_;  // the newest
};

}  // namespace dimhem::ui
