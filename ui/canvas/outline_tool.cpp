#include "ui/canvas/outline_tool.h"

#include <algorithm>
#include <cmath>

#include "ui/canvas/grip.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr std::size_t leastPoints = 3;
constexpr double freehandAfterPx = 6;   // a press that moves no further is a click
constexpr std::size_t mostKnobs = 120;  // more points than this are shown without knobs

}  // namespace

int OutlineTool::pointAt(QPointF screen) const {
    const auto shown = selected<mask::Outline>();
    if (!shown) return -1;
    for (std::size_t i = 0; i < shown->points().size(); ++i) {
        if (distance(viewport_.toScreen(shown->points()[i]), screen) < reachPx) return static_cast<int>(i);
    }
    return -1;
}

int OutlineTool::lineAt(QPointF screen) const {
    const auto shown = selected<mask::Outline>();
    if (!shown || shown->points().size() < leastPoints) return -1;
    const auto& [line, starts] = shown->course();
    for (std::size_t i = 0; i < line.size(); ++i) {
        const QPointF from = viewport_.toScreen(line[i]), to = viewport_.toScreen(line[(i + 1) % line.size()]);
        if (distanceToLine(screen, QLineF(from, to)) >= onLinePx) continue;
        return static_cast<int>(std::upper_bound(starts.begin(), starts.end(), i) - starts.begin()) - 1;
    }
    return -1;
}

// Where there is an outline already, only after a word about it.
bool OutlineTool::mayDrawAnew() {
    const auto shown = selected<mask::Outline>();
    if (!shown || shown->points().empty() || warnedOf_.lock() == shown) return true;
    warnedOf_ = shown;
    session_.say(QObject::tr("Press once more beside the outline to draw it anew; a press on its line adds a point."));
    return false;
}

bool OutlineTool::takesFromItself(const PointerEvent& event) const {
    return pointAt(event.screen) >= 0;
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
    const auto shown = selected<mask::Outline>();
    if (!shown) return;
    next_ = event.place;
    point_ = pointAt(event.screen);
    const int line = point_ < 0 ? lineAt(event.screen) : -1;
    if (point_ >= 0 && event.takesAway) {
        takeAway(point_);
    } else if (point_ >= 0 && shown->joining().curved && event.modifiers & Qt::ShiftModifier) {
        turnCorner(point_);
    } else if (point_ >= 0) {
        if (!begin(QObject::tr("move point"))) return;
        doing_ = Doing::point;
        points_ = start_->points();
    } else if (line >= 0 && shown->points().size() < mask::mostOutlinePoints) {
        if (!begin(QObject::tr("add point"))) return;
        doing_ = Doing::point;
        points_ = start_->points();
        point_ = line + 1;
        points_.insert(points_.begin() + point_, event.place);
        joining_.insertedAt(static_cast<std::size_t>(point_));
        dragged_ = true;  // it is a step as it is
        show();
    } else if (mayDrawAnew() && begin(QObject::tr("draw outline"))) {
        doing_ = Doing::freehand;
        points_ = {event.place};
        joining_.corners.clear();  // those were of the outline before
    }
}

void OutlineTool::takeAway(int point) {
    if (selected<mask::Outline>()->points().size() <= leastPoints) {
        session_.say(QObject::tr("An outline has three points at least: remove the part instead."));
        return;
    }
    if (!begin(QObject::tr("take point away"))) return;
    points_ = start_->points();
    points_.erase(points_.begin() + point);
    joining_.removedAt(static_cast<std::size_t>(point));
    doing_ = Doing::point;
    dragged_ = true;
    end();
}

void OutlineTool::turnCorner(int point) {
    const bool isCorner = selected<mask::Outline>()->joining().isCorner(static_cast<std::size_t>(point));
    if (!begin(isCorner ? QObject::tr("corner to curve") : QObject::tr("curve to corner"))) return;
    points_ = start_->points();
    joining_.turn(static_cast<std::size_t>(point));
    doing_ = Doing::point;
    dragged_ = true;
    end();
}

bool OutlineTool::takeBack() {
    if (!isDoing(Doing::clicking)) return false;
    points_.pop_back();
    points_.empty() ? gesture_.giveUp() : show();
    return true;
}

bool OutlineTool::begin(const QString& stepName) {
    gesture_ = session_.begin(
        {.stepName = stepName, .interrupted = [this] { end(); }, .takeBack = [this] { return takeBack(); }});
    start_ = selected<mask::Outline>();
    if (!start_) gesture_.giveUp();
    joining_ = start_ ? start_->joining() : mask::Joining();
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
        gesture_.commit(
            withShape(std::make_shared<mask::Outline>(points_, start_->featherPx(), start_->snapPx(), joining_)));
    }
}

// While it is drawn it is shown as drawn; the edge is looked for once it is there.
void OutlineTool::show() {
    gesture_.preview(withShape(std::make_shared<mask::Outline>(points_, start_->featherPx(), 0, joining_)));
}

void OutlineTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent*) const {
    const auto shown = selected<mask::Outline>();
    if (!shown || !session_.correction()) return;
    const std::vector<base::Point>& points =
        isDoing(Doing::clicking) || isDoing(Doing::freehand) ? points_ : shown->points();
    if (points.empty()) return;
    const QColor colour = threadColour(session_.correction()->threadColour);
    const bool clicking = isDoing(Doing::clicking);
    std::vector<base::Point> course = points;
    if (clicking) course.push_back(next_);
    const mask::Joining& joining = isActive() ? joining_ : shown->joining();
    QPolygonF line;
    for (const base::Point& point : mask::courseThrough(course, joining).line) line << viewport.toScreen(point);
    if (!isDoing(Doing::freehand) && line.size() > 2) line << line.front();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(0, 0, 0, 130), 3.4));
    painter.drawPolyline(line);
    painter.setPen(stitchPen(colour, 1.6));
    painter.drawPolyline(line);
    if (points.size() > mostKnobs) return;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const bool closes = i == 0 && clicking;
        // In a curved outline corners are full and the other points open.
        const bool full = !joining.curved || joining.isCorner(i);
        paintGrip(painter, viewport.toScreen(points[i]), closes ? QColor(theme::bright) : colour, full, 3.5);
    }
}

QCursor OutlineTool::cursor(const PointerEvent& pointer, const Viewport&) const {
    const bool onIt = pointAt(pointer.screen) >= 0 || lineAt(pointer.screen) >= 0;
    return !isActive() && onIt ? Qt::PointingHandCursor : Qt::CrossCursor;
}

}  // namespace dimhem::ui
