#include "ui/canvas/region_tool.h"

#include <cmath>

#include "core/document/edits.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double stepPx = 3;            // on screen, between points of a drag
constexpr qint64 betweenShownMs = 250;  // while the hand moves on; finding the region takes about that long

}  // namespace

std::shared_ptr<const mask::Region> RegionTool::region() const {
    const mask::Part* part = session_.part();
    return part ? std::dynamic_pointer_cast<const mask::Region>(part->shape) : nullptr;
}

document::DocumentPtr RegionTool::withDrag() const {
    return document::withPart(*before_, session_.selectedCorrection(), session_.selectedPart(), [&](mask::Part& part) {
        const auto shape = std::dynamic_pointer_cast<const mask::Region>(part.shape);
        if (!shape) return;
        std::vector<mask::RegionDrag> drags = shape->drags();
        drags.push_back(drag_);
        part.shape = std::make_shared<mask::Region>(std::move(drags), shape->reachPct());
    });
}

void RegionTool::press(const PointerEvent& event) {
    if (!region()) return;
    before_ = session_.document();
    drag_ = {{event.place}, static_cast<bool>(event.modifiers & Qt::ControlModifier)};
    sinceShown_.start();
}

void RegionTool::move(const PointerEvent& event) {
    if (!before_) return;
    const base::Point way = event.place - drag_.points.back();
    if (std::hypot(way.x, way.y) * viewport_.zoom() < stepPx) return;
    drag_.points.push_back(event.place);
    if (sinceShown_.elapsed() < betweenShownMs) return;
    sinceShown_.start();
    session_.preview(withDrag());
}

void RegionTool::release(const PointerEvent&) {
    if (!before_) return;
    const document::DocumentPtr next = withDrag(), like = std::exchange(before_, nullptr);
    session_.commit(next, drag_.removes ? QObject::tr("take from region") : QObject::tr("add to region"), like);
}

void RegionTool::cancel() {
    if (!std::exchange(before_, nullptr)) return;
    session_.dropPreview();
}

// Away from the photo the pointer leaves it clear of lines, to be judged.
void RegionTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const {
    const auto shown = region();
    if (!shown || !session_.correction() || (!pointer && !before_)) return;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    const QColor colour = threadColour(session_.correction()->threadColour);
    const auto line = [&](const mask::RegionDrag& drag) {
        QPolygonF points;
        for (const base::Point& p : drag.points) points << viewport.toScreen(p);
        if (points.size() == 1) points << points.front() + QPointF(0.5, 0.5);
        painter.setPen(QPen(QColor(0, 0, 0, 140), 4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(points);
        painter.setPen(drag.removes ? stitchPen(colour, 2)
                                    : QPen(colour, 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(points);
    };
    for (const mask::RegionDrag& drag : shown->drags()) line(drag);
    if (before_) line(drag_);
}

QCursor RegionTool::cursor(const PointerEvent&, const Viewport&) const {
    return Qt::CrossCursor;
}

}  // namespace dimhem::ui
