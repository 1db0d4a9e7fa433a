// Following a wire: click along it, from place to place; a double click or Enter ends the line, the next click begins
// another, and Backspace takes the last click back. Places can be dragged afterwards; a press between two of them adds
// one, and Ctrl and a click takes one away.
#pragma once

#include "core/mask/wire.h"
#include "ui/canvas/tool.h"

namespace dimhem::ui {

class WireTool final : public Tool {
public:
    using Tool::Tool;

    bool takesFromItself(const PointerEvent& event) const override;
    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void hover(const PointerEvent& event) override;
    bool finish();  // ends a line that is being clicked; false where there is none
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    enum class Doing { clicking, place };
    struct Place {
        std::size_t line, point;
    };
    bool isDoing(Doing what) const { return isActive() && doing_ == what; }
    std::optional<Place> placeAt(QPointF screen) const;
    std::optional<Place> lineAt(QPointF screen) const;  // the place after which a press would add one
    bool beginAt(const QString& step);
    bool takeBack();
    void takeAway(const Place& place);
    void beginLine(const PointerEvent& event);
    void addPoint(const base::Point& place);
    document::DocumentPtr withLines() const;
    void end();  // one step where there is a line, none where there is not

    std::shared_ptr<const mask::Wire> start_;
    std::vector<mask::WireLine> lines_;  // as they are while the gesture runs
    Place place_{};                      // in hand
    base::Point next_;                   // where the next click would go
    Doing doing_ = Doing::clicking;
    bool dragged_ = false;
};

}  // namespace dimhem::ui
