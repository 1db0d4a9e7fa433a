#include "ui/canvas/outline_tool.h"

#include <cmath>

#include "core/document/edits.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double reachPx = 8;
constexpr double freehandAfterPx = 6;   // a press that moves no further is a click
constexpr double stepPx = 3;            // on screen, between points drawn freehand
constexpr std::size_t mostKnobs = 120;  // more points than this are shown without knobs

double distance(QPointF a, QPointF b) {
    return std::hypot(a.x() - b.x(), a.y() - b.y());
}

}  // namespace

std::shared_ptr<const mask::Outline> OutlineTool::outline() const {
    const mask::Part* part = session_.part();
    return part ? std::dynamic_pointer_cast<const mask::Outline>(part->shape) : nullptr;
}

int OutlineTool::pointAt(QPointF screen) const {
    const auto shown = outline();
    if (!shown) return -1;
    for (std::size_t i = 0; i < shown->points().size(); ++i) {
        if (distance(viewport_.toScreen(shown->points()[i]), screen) < reachPx) return static_cast<int>(i);
    }
    return -1;
}

void OutlineTool::press(const PointerEvent& event) {
    const auto shown = outline();
    if (!shown) return;
    pressedAt_ = event.screen;
    dragged_ = false;
    if (doing_ == Doing::clicking) {
        // On the first point, or twice in the same place: closed.
        const bool onFirst =
            points_.size() >= 3 && distance(viewport_.toScreen(points_.front()), event.screen) < reachPx;
        const bool twice = points_.size() >= 3 && distance(viewport_.toScreen(points_.back()), event.screen) < 3;
        if (onFirst || twice) {
            finish();
        } else {
            points_.push_back(event.place);
            show(points_);
        }
        return;
    }
    before_ = session_.document();
    featherPx_ = shown->featherPx();
    snapPx_ = shown->snapPx();
    point_ = pointAt(event.screen);
    if (point_ >= 0) {
        doing_ = Doing::point;
        points_ = shown->points();
    } else {
        doing_ = Doing::freehand;
        points_ = {event.place};
    }
}

void OutlineTool::move(const PointerEvent& event) {
    next_ = event.place;
    if (doing_ == Doing::point) {
        dragged_ = true;
        points_[static_cast<std::size_t>(point_)] = event.place;
        show(points_);
    } else if (doing_ == Doing::freehand) {
        dragged_ = dragged_ || distance(event.screen, pressedAt_) > freehandAfterPx;
        if (!dragged_ || distance(viewport_.toScreen(points_.back()), event.screen) < stepPx) return;
        points_.push_back(event.place);
        show(points_);
    }
}

void OutlineTool::release(const PointerEvent&) {
    if (doing_ == Doing::point || (doing_ == Doing::freehand && dragged_)) {
        const bool moved = doing_ == Doing::point;
        doing_ = Doing::nothing;
        if (dragged_) commit(moved ? QObject::tr("move point") : QObject::tr("draw outline"));
    } else if (doing_ == Doing::freehand) {
        doing_ = Doing::clicking;  // the press was the first corner
        next_ = points_.front();
    }
}

void OutlineTool::hover(const PointerEvent& event) {
    next_ = event.place;
}

bool OutlineTool::finish() {
    if (doing_ != Doing::clicking) return false;
    doing_ = Doing::nothing;
    if (points_.size() < 3) {
        session_.dropPreview();
    } else {
        show(points_);
        commit(QObject::tr("draw outline"));
    }
    return true;
}

void OutlineTool::cancel() {
    if (doing_ == Doing::nothing) return;
    doing_ = Doing::nothing;
    session_.dropPreview();
}

document::DocumentPtr OutlineTool::withOutline(const std::vector<base::Point>& points, double snapPx) const {
    return document::withPart(*before_, session_.selectedCorrection(), session_.selectedPart(), [&](mask::Part& part) {
        part.shape = std::make_shared<mask::Outline>(points, featherPx_, snapPx);
    });
}

// While it is drawn it is shown as drawn; the edge is looked for once it is there.
void OutlineTool::show(const std::vector<base::Point>& points) {
    session_.preview(withOutline(points, 0));
}

void OutlineTool::commit(const QString& stepName) {
    const document::DocumentPtr shown = session_.document();
    session_.commit(withOutline(points_, snapPx_), stepName, shown);
}

void OutlineTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent*) const {
    const auto shown = outline();
    if (!shown || !session_.correction()) return;
    const std::vector<base::Point>& points =
        doing_ == Doing::clicking || doing_ == Doing::freehand ? points_ : shown->points();
    if (points.empty()) return;
    const QColor colour = threadColour(session_.correction()->threadColour);
    QPolygonF line;
    for (const base::Point& point : points) line << viewport.toScreen(point);
    if (doing_ == Doing::clicking) line << viewport.toScreen(next_);
    if (doing_ != Doing::freehand && line.size() > 2) line << line.front();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(0, 0, 0, 130), 3.4));
    painter.drawPolyline(line);
    painter.setPen(stitchPen(colour, 1.6));
    painter.drawPolyline(line);
    if (points.size() > mostKnobs) return;
    painter.setPen(QPen(QColor(0, 0, 0, 160), 1));
    for (std::size_t i = 0; i < points.size(); ++i) {
        painter.setBrush(i == 0 && doing_ == Doing::clicking ? QColor(theme::bright) : colour);
        painter.drawEllipse(viewport.toScreen(points[i]), 3.5, 3.5);
    }
}

QCursor OutlineTool::cursor(const PointerEvent& pointer, const Viewport&) const {
    return doing_ == Doing::nothing && pointAt(pointer.screen) >= 0 ? Qt::PointingHandCursor : Qt::CrossCursor;
}

}  // namespace dimhem::ui
