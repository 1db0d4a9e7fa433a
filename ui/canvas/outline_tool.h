// Drawing an outline: drag freehand round the thing, or click from corner to corner; a click on the first point, a
// double click or Enter closes it. Afterwards its points can be dragged, and a drag away from them draws it anew.
#pragma once

#include "core/mask/outline.h"
#include "ui/canvas/tool.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class OutlineTool final : public Tool {
public:
    OutlineTool(Session& session, const Viewport& viewport) : session_(session), viewport_(viewport) {}

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void cancel() override;
    bool isActive() const override { return doing_ != Doing::nothing; }
    void hover(const PointerEvent& event) override;
    bool finish();  // closes an outline that is being clicked; false where there is none
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    enum class Doing { nothing, freehand, clicking, point };
    std::shared_ptr<const mask::Outline> outline() const;
    int pointAt(QPointF screen) const;
    document::DocumentPtr withOutline(const std::vector<base::Point>& points, double snapPx) const;
    void show(const std::vector<base::Point>& points);
    void commit(const QString& stepName);

    Session& session_;
    const Viewport& viewport_;
    document::DocumentPtr before_;
    double featherPx_ = 0, snapPx_ = 0;
    std::vector<base::Point> points_;  // being drawn
    base::Point next_;                 // where the next click would go
    QPointF pressedAt_;
    Doing doing_ = Doing::nothing;
    bool dragged_ = false;
    int point_ = -1;
};

}  // namespace dimhem::ui
