#include "ui/canvas/outline_tool.h"

#include <cmath>

#include "ui/canvas/grip.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double reachPx = 8;
constexpr std::size_t leastPoints = 3;
constexpr double freehandAfterPx = 6;   // a press that moves no further is a click
constexpr double stepPx = 3;            // on screen, between points drawn freehand
constexpr std::size_t mostKnobs = 120;  // more points than this are shown without knobs

double distance(QPointF a, QPointF b) {
    return std::hypot(a.x() - b.x(), a.y() - b.y());
}

}  // namespace

int OutlineTool::pointAt(QPointF screen) const {
    const auto shown = selected<mask::Outline>();
    if (!shown) return -1;
    for (std::size_t i = 0; i < shown->points().size(); ++i) {
        if (distance(viewport_.toScreen(shown->points()[i]), screen) < reachPx) return static_cast<int>(i);
    }
    return -1;
}

void OutlineTool::press(const PointerEvent& event) {
    pressedAt_ = event.screen;
    if (isDoing(Doing::clicking)) {
        // On the first point, or twice in the same place: closed.
        const bool onFirst =
            points_.size() >= leastPoints && distance(viewport_.toScreen(points_.front()), event.screen) < reachPx;
        const bool twice =
            points_.size() >= leastPoints && distance(viewport_.toScreen(points_.back()), event.screen) < 3;
        if (onFirst || twice) {
            finish();
        } else {
            addPoint(event.place);
        }
        return;
    }
    if (!beginAt(event)) return;
    point_ = pointAt(event.screen);
    doing_ = point_ >= 0 ? Doing::point : Doing::freehand;
    points_ = point_ >= 0 ? start_->points() : std::vector<base::Point>{event.place};
    next_ = event.place;
}

bool OutlineTool::beginAt(const PointerEvent& event) {
    if (!selected<mask::Outline>()) return false;
    const bool moves = pointAt(event.screen) >= 0;
    gesture_ = session_.begin({.stepName = moves ? QObject::tr("move point") : QObject::tr("draw outline"),
                               .interrupted = [this] { end(); }});
    start_ = selected<mask::Outline>();
    if (!start_) gesture_.giveUp();
    dragged_ = false;
    return gesture_.isRunning();
}

void OutlineTool::move(const PointerEvent& event) {
    next_ = event.place;
    if (isDoing(Doing::point)) {
        dragged_ = true;
        points_[static_cast<std::size_t>(point_)] = event.place;
        show();
    } else if (isDoing(Doing::freehand)) {
        dragged_ = dragged_ || distance(event.screen, pressedAt_) > freehandAfterPx;
        if (dragged_ && distance(viewport_.toScreen(points_.back()), event.screen) >= stepPx) addPoint(event.place);
    }
}

// Beyond what a document can hold, every second point is left out: the outline goes on, a little coarser.
void OutlineTool::addPoint(const base::Point& place) {
    if (points_.size() >= mask::mostOutlinePoints) {
        std::size_t kept = 0;
        for (std::size_t i = 0; i < points_.size(); i += 2) points_[kept++] = points_[i];
        points_.resize(kept);
    }
    points_.push_back(place);
    show();
}

void OutlineTool::release(const PointerEvent&) {
    if (isDoing(Doing::freehand) && !dragged_) {
        doing_ = Doing::clicking;  // the press was the first corner
    } else if (isDoing(Doing::freehand) || isDoing(Doing::point)) {
        end();
    }
}

void OutlineTool::hover(const PointerEvent& event) {
    next_ = event.place;
}

bool OutlineTool::finish() {
    if (!isDoing(Doing::clicking)) return false;
    end();
    return true;
}

void OutlineTool::end() {
    if (!gesture_.isRunning()) return;
    const bool moved = doing_ != Doing::point || dragged_;
    if (points_.size() < leastPoints || !moved) {
        gesture_.giveUp();
    } else {
        gesture_.commit(withShape(std::make_shared<mask::Outline>(points_, start_->featherPx(), start_->snapPx())));
    }
}

// While it is drawn it is shown as drawn; the edge is looked for once it is there.
void OutlineTool::show() {
    gesture_.preview(withShape(std::make_shared<mask::Outline>(points_, start_->featherPx(), 0)));
}

void OutlineTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent*) const {
    const auto shown = selected<mask::Outline>();
    if (!shown || !session_.correction()) return;
    const std::vector<base::Point>& points =
        isDoing(Doing::clicking) || isDoing(Doing::freehand) ? points_ : shown->points();
    if (points.empty()) return;
    const QColor colour = threadColour(session_.correction()->threadColour);
    QPolygonF line;
    for (const base::Point& point : points) line << viewport.toScreen(point);
    if (isDoing(Doing::clicking)) line << viewport.toScreen(next_);
    if (!isDoing(Doing::freehand) && line.size() > 2) line << line.front();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(0, 0, 0, 130), 3.4));
    painter.drawPolyline(line);
    painter.setPen(stitchPen(colour, 1.6));
    painter.drawPolyline(line);
    if (points.size() > mostKnobs) return;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const bool closes = i == 0 && isDoing(Doing::clicking);
        paintGrip(painter, viewport.toScreen(points[i]), closes ? QColor(theme::bright) : colour, true, 3.5);
    }
}

QCursor OutlineTool::cursor(const PointerEvent& pointer, const Viewport&) const {
    return !isActive() && pointAt(pointer.screen) >= 0 ? Qt::PointingHandCursor : Qt::CrossCursor;
}

}  // namespace dimhem::ui
