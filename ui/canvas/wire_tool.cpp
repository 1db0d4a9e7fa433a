#include "ui/canvas/wire_tool.h"

#include <cmath>

#include "ui/canvas/grip.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double twicePx = 3;   // two clicks no further apart are a double click
constexpr double withinPx = 6;  // on screen: how far off the wire a hand clicks

}  // namespace

std::optional<WireTool::Place> WireTool::placeAt(QPointF screen) const {
    const auto shown = selected<mask::Wire>();
    if (!shown) return {};
    for (std::size_t l = 0; l < shown->lines().size(); ++l) {
        const auto& points = shown->lines()[l].points;
        for (std::size_t i = 0; i < points.size(); ++i) {
            if (distance(viewport_.toScreen(points[i]), screen) < reachPx) return Place{l, i};
        }
    }
    return {};
}

std::optional<WireTool::Place> WireTool::lineAt(QPointF screen) const {
    const auto shown = selected<mask::Wire>();
    if (!shown) return {};
    for (std::size_t l = 0; l < shown->lines().size(); ++l) {
        const auto& points = shown->lines()[l].points;
        for (std::size_t i = 1; i < points.size(); ++i) {
            const QPointF from = viewport_.toScreen(points[i - 1]), to = viewport_.toScreen(points[i]);
            if (distanceToLine(screen, QLineF(from, to)) < onLinePx) return Place{l, i - 1};
        }
    }
    return {};
}

bool WireTool::takeBack() {
    if (!isDoing(Doing::clicking)) return false;
    auto& points = lines_.back().points;
    points.pop_back();
    points.empty() ? gesture_.giveUp() : gesture_.preview(withLines());
    return true;
}

bool WireTool::beginAt(const QString& step) {
    gesture_ =
        session_.begin({.stepName = step, .interrupted = [this] { end(); }, .takeBack = [this] { return takeBack(); }});
    start_ = selected<mask::Wire>();
    if (!start_) {
        gesture_.giveUp();
        return false;
    }
    lines_ = start_->lines();
    dragged_ = false;
    return gesture_.isRunning();
}

bool WireTool::takesFromItself(const PointerEvent& event) const {
    return placeAt(event.screen).has_value();
}

void WireTool::press(const PointerEvent& event) {
    next_ = event.place;
    if (isDoing(Doing::clicking)) {
        const auto& points = lines_.back().points;
        if (points.size() > 1 && distance(viewport_.toScreen(points.back()), event.screen) < twicePx) {
            finish();
        } else {
            addPoint(event.place);
        }
        return;
    }
    if (!selected<mask::Wire>()) return;
    const auto place = placeAt(event.screen);
    if (place && event.takesAway) {
        takeAway(*place);
    } else if (place) {
        if (!beginAt(QObject::tr("move place of wire"))) return;
        doing_ = Doing::place;
        place_ = *place;
    } else if (const auto line = lineAt(event.screen);
               line && selected<mask::Wire>()->lines()[line->line].points.size() < mask::mostWirePoints) {
        if (!beginAt(QObject::tr("add place to wire"))) return;
        doing_ = Doing::place;
        place_ = {line->line, line->point + 1};
        auto& points = lines_[line->line].points;
        points.insert(points.begin() + static_cast<std::ptrdiff_t>(place_.point), event.place);
        dragged_ = true;  // it is a step as it is
        gesture_.preview(withLines());
    } else {
        beginLine(event);
    }
}

void WireTool::takeAway(const Place& place) {
    if (!beginAt(QObject::tr("take place from wire"))) return;
    doing_ = Doing::place;
    auto& points = lines_[place.line].points;
    points.erase(points.begin() + static_cast<std::ptrdiff_t>(place.point));
    if (points.size() < 2) lines_.erase(lines_.begin() + static_cast<std::ptrdiff_t>(place.line));
    gesture_.commit(withLines());
}

void WireTool::beginLine(const PointerEvent& event) {
    if (selected<mask::Wire>()->lines().size() >= mask::mostWires) {
        session_.say(QObject::tr("A wire part takes 1000 lines: add another wire part to go on."));
        return;
    }
    if (!beginAt(QObject::tr("follow wire"))) return;
    doing_ = Doing::clicking;
    const base::ParamSpec& within = mask::wireWithinSpec;
    lines_.push_back({{event.place}, base::clamped(within, std::max(3.0, withinPx / viewport_.zoom()))});
}

void WireTool::addPoint(const base::Point& place) {
    auto& points = lines_.back().points;
    if (points.size() >= mask::mostWirePoints) {
        session_.say(QObject::tr("A line takes 1000 places: end it with Enter and go on with another."));
        return;
    }
    points.push_back(place);
    gesture_.preview(withLines());
}

void WireTool::move(const PointerEvent& event) {
    next_ = event.place;
    if (!isDoing(Doing::place)) return;
    dragged_ = true;
    lines_[place_.line].points[place_.point] = event.place;
    gesture_.preview(withLines());
}

void WireTool::release(const PointerEvent&) {
    if (isDoing(Doing::place)) end();
}

void WireTool::hover(const PointerEvent& event) {
    next_ = event.place;
}

bool WireTool::finish() {
    if (!isDoing(Doing::clicking)) return false;
    end();
    return true;
}

document::DocumentPtr WireTool::withLines() const {
    return withShape(std::make_shared<mask::Wire>(lines_, start_->widthPct()));
}

void WireTool::end() {
    if (!gesture_.isRunning()) return;
    const bool nothing = doing_ == Doing::clicking ? lines_.back().points.size() < 2 : !dragged_;
    if (nothing) {
        gesture_.giveUp();
    } else {
        gesture_.commit(withLines());
    }
}

// The places, and the way to the next one. The course itself is left clear, to be judged.
void WireTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const {
    const auto shown = selected<mask::Wire>();
    if (!shown || !session_.correction() || (!pointer && !isActive())) return;
    const QColor colour = threadColour(session_.correction()->threadColour);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    if (isDoing(Doing::clicking)) {
        const QLineF way(viewport.toScreen(lines_.back().points.back()), viewport.toScreen(next_));
        painter.setPen(QPen(QColor(0, 0, 0, 130), 3));
        painter.drawLine(way);
        painter.setPen(stitchPen(colour, 1.4));
        painter.drawLine(way);
    }
    for (const mask::WireLine& line : isActive() ? lines_ : shown->lines()) {
        for (const base::Point& point : line.points) {
            paintCircle(painter, viewport.toScreen(point), 4.5, QPen(colour, 1.4));
        }
    }
}

QCursor WireTool::cursor(const PointerEvent& pointer, const Viewport&) const {
    return !isActive() && (placeAt(pointer.screen) || lineAt(pointer.screen)) ? Qt::PointingHandCursor
                                                                              : Qt::CrossCursor;
}

}  // namespace dimhem::ui
