#include "ui/canvas/region_tool.h"

#include <cmath>

#include "ui/canvas/grip.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double leastRingPx = 8;
constexpr quint64 betweenShownMs = 250;  // while the hand moves on; finding the region takes about that long

}  // namespace

document::DocumentPtr RegionTool::withDrag() const {
    std::vector<mask::RegionDrag> drags = start_->drags();
    drags.push_back(drag_);
    return withShape(std::make_shared<mask::Region>(std::move(drags), start_->reachPct(), start_->takesApart()));
}

bool RegionTool::takesFromItself(const PointerEvent&) const {
    const auto shown = selected<mask::Region>();
    return shown && !shown->drags().empty();
}

void RegionTool::press(const PointerEvent& event) {
    const auto shown = selected<mask::Region>();
    if (!shown) return;
    if (shown->drags().size() >= mask::mostDrags) {
        session_.say(QObject::tr("A region takes 1000 drags: add another region part to go on."));
        return;
    }
    const bool removes = event.takesAway;
    gesture_ = session_.begin({.stepName = removes ? QObject::tr("take from region") : QObject::tr("add to region"),
                               .interrupted = [this] { finish(); }});
    start_ = selected<mask::Region>();
    if (!start_) gesture_.giveUp();
    drag_ = {{event.place}, removes};
    shownMs_ = event.timeMs;
}

void RegionTool::move(const PointerEvent& event) {
    if (!gesture_.isRunning() || drag_.points.size() >= mask::mostDragPoints) return;
    const base::Point way = event.place - drag_.points.back();
    if (std::hypot(way.x, way.y) * viewport_.zoom() < stepPx) return;
    drag_.points.push_back(event.place);
    if (event.timeMs < shownMs_ + betweenShownMs) return;
    shownMs_ = event.timeMs;
    gesture_.preview(withDrag());
}

void RegionTool::release(const PointerEvent&) {
    finish();
}

void RegionTool::finish() {
    if (gesture_.isRunning()) gesture_.commit(withDrag());
}

// Away from the photo the pointer leaves it clear of lines, to be judged.
void RegionTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const {
    const auto shown = selected<mask::Region>();
    if (!shown || !session_.correction() || (!pointer && !isActive())) return;
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
    if (isActive()) {
        line(drag_);
        return;
    }
    for (const mask::Region::UnsurePlace& place : unsure_.places()) {
        const double radius = std::max(leastRingPx, place.radiusPx * viewport.zoom());
        paintCircle(painter, viewport.toScreen(place.at), radius, QPen(colour, 1.6, Qt::DotLine));
    }
}

QCursor RegionTool::cursor(const PointerEvent&, const Viewport&) const {
    return Qt::CrossCursor;
}

}  // namespace dimhem::ui
