// Setting a range on the photo itself.
//
// Colour range: a click adds the colour there, Ctrl+click takes the nearest pick away, a drag averages an area. By hue,
// a click sets the band about the hue there. Luminosity range: press on a tone and drag: up and down moves the range to
// it and widens it.
#pragma once

#include "core/mask/colour_range.h"
#include "core/mask/luminosity_range.h"
#include "ui/canvas/tool.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class RangeTool final : public Tool {
public:
    explicit RangeTool(Session& session) : session_(session) {}

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void cancel() override;
    bool isActive() const override { return active_; }
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent&, const Viewport&) const override { return Qt::CrossCursor; }

private:
    std::shared_ptr<const mask::ColourRange> colourRange() const;
    std::shared_ptr<const mask::LuminosityRange> luminosityRange() const;
    std::optional<colour::LinearRgb> colourAt(base::Point place, int radiusPx, mask::Seen seen) const;
    void showColours(const PointerEvent& event);
    void showTones(const PointerEvent& event);
    void show(mask::ShapePtr shape);

    Session& session_;
    document::DocumentPtr before_;
    mask::ShapePtr start_;
    PointerEvent pressed_, last_;
    double tone_ = 0;
    bool active_ = false;
};

}  // namespace dimhem::ui
