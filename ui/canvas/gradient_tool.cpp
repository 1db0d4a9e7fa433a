#include "ui/canvas/gradient_tool.h"

#include <cmath>
#include <numbers>

#include "ui/canvas/grip.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double lineHalfPx = 130;  // half the length of a line on screen
constexpr double newAfterPx = 6;    // a shorter drag does not lay a gradient anew

// The gradient as it is drawn: both lines and the spine, on screen.
struct Drawn {
    QPointF full, none, along, across;  // unit vectors from full to none, and at right angles
    Drawn(const mask::LinearGradient& gradient, const Viewport& viewport)
        : full(viewport.toScreen(gradient.full())), none(viewport.toScreen(gradient.none())) {
        const QPointF way = none - full;
        const double length = std::hypot(way.x(), way.y());
        along = length > 1e-6 ? way / length : QPointF(0, 1);
        across = QPointF(-along.y(), along.x());
    }
    QLineF line(QPointF middle) const { return {middle - across * lineHalfPx, middle + across * lineHalfPx}; }
};

// The end of a way from `from` to `to`, its direction kept to steps of 15 degrees.
base::Point snapped(base::Point from, base::Point to) {
    constexpr double step = std::numbers::pi / 12;
    const base::Point way = to - from;
    const double length = std::hypot(way.x, way.y);
    const double angle = std::round(std::atan2(way.y, way.x) / step) * step;
    return from + base::Point{std::cos(angle), std::sin(angle)} * length;
}

base::Point turned(base::Point p, base::Point about, double angle) {
    const base::Point d = p - about;
    return about +
           base::Point{d.x * std::cos(angle) - d.y * std::sin(angle), d.x * std::sin(angle) + d.y * std::cos(angle)};
}

double angleOf(base::Point from, base::Point to) {
    return std::atan2(to.y - from.y, to.x - from.x);
}

}  // namespace

GradientTool::Grip GradientTool::gripAt(QPointF screen, const Viewport& viewport) const {
    const auto shown = selected<mask::LinearGradient>();
    if (!shown) return Grip::nothing;
    const Drawn drawn(*shown, viewport);
    for (const QPointF middle : {drawn.full, drawn.none}) {
        const QLineF line = drawn.line(middle);
        if (distance(screen, line.p1()) < reachPx || distance(screen, line.p2()) < reachPx) return Grip::turn;
    }
    if (distance(screen, (drawn.full + drawn.none) / 2) < reachPx * 1.5) return Grip::spine;
    if (distanceToLine(screen, drawn.line(drawn.full)) < reachPx) return Grip::fullLine;
    if (distanceToLine(screen, drawn.line(drawn.none)) < reachPx) return Grip::noneLine;
    if (distanceToLine(screen, QLineF(drawn.full, drawn.none)) < reachPx) return Grip::spine;
    return Grip::anew;
}

void GradientTool::press(const PointerEvent& event) {
    if (!selected<mask::LinearGradient>()) return;
    gesture_ = session_.begin({.stepName = QObject::tr("move gradient")});
    start_ = selected<mask::LinearGradient>();
    if (!start_) gesture_.giveUp();
    pressed_ = event;
    moved_ = false;
    grip_ = event.drawsAnew ? Grip::anew : gripAt(event.screen, viewport_);
}

void GradientTool::move(const PointerEvent& event) {
    if (!gesture_.isRunning()) return;
    if (grip_ == Grip::anew && distance(event.screen, pressed_.screen) < newAfterPx && !moved_) return;
    moved_ = true;
    const base::Point by = event.place - pressed_.place;
    const bool steps = event.modifiers & Qt::ShiftModifier;
    base::Point full = start_->full(), none = start_->none();
    const base::Point middle = (full + none) * 0.5;
    switch (grip_) {
        case Grip::nothing: return;
        case Grip::spine:
            full = full + by;
            none = none + by;
            break;
        case Grip::fullLine:
        case Grip::noneLine: {
            // Along the spine only: widening does not turn.
            const base::Point way = none - full;
            const double length2 = std::max(1e-9, way.x * way.x + way.y * way.y);
            const base::Point shift = way * ((by.x * way.x + by.y * way.y) / length2);
            (grip_ == Grip::fullLine ? full : none) = (grip_ == Grip::fullLine ? full : none) + shift;
            break;
        }
        case Grip::turn: {
            const double angle = angleOf(middle, event.place) - angleOf(middle, pressed_.place);
            full = turned(full, middle, angle);
            none = turned(none, middle, angle);
            if (steps) {
                none = snapped(middle, none);
                full = middle * 2 - none;
            }
            break;
        }
        case Grip::anew:
            full = pressed_.place;
            none = steps ? snapped(full, event.place) : event.place;
            break;
    }
    show(full, none);
}

void GradientTool::release(const PointerEvent&) {
    moved_ ? gesture_.commit() : gesture_.giveUp();
}

void GradientTool::show(base::Point full, base::Point none) {
    gesture_.preview(withShape(std::make_shared<mask::LinearGradient>(full, none, start_->profile())));
}

void GradientTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent*) const {
    const auto shown = selected<mask::LinearGradient>();
    if (!shown || !session_.correction()) return;
    const QColor colour = threadColour(session_.correction()->threadColour);
    const Drawn drawn(*shown, viewport);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto stitched = [&](const QLineF& line, double width) {
        painter.setPen(QPen(QColor(0, 0, 0, 130), width + 2, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(line);
        painter.setPen(stitchPen(colour, width));
        painter.drawLine(line);
    };
    stitched(QLineF(drawn.full, drawn.none), 1.2);
    stitched(drawn.line(drawn.full), 2.4);
    stitched(drawn.line(drawn.none), 1.4);
    // Full has filled grips, none open ones: which side is which can be read without trying.
    for (const QPointF end : {drawn.line(drawn.full).p1(), drawn.line(drawn.full).p2()})
        paintGrip(painter, end, colour, true, 4);
    for (const QPointF end : {drawn.line(drawn.none).p1(), drawn.line(drawn.none).p2()})
        paintGrip(painter, end, colour, false, 4);
    painter.setBrush(colour);
    painter.setPen(QPen(QColor(0, 0, 0, 160), 1));
    const QPointF middle = (drawn.full + drawn.none) / 2;
    painter.drawRoundedRect(QRectF(middle.x() - 5, middle.y() - 5, 10, 10), 2.5, 2.5);
}

QCursor GradientTool::cursor(const PointerEvent& pointer, const Viewport& viewport) const {
    switch (gripAt(pointer.screen, viewport)) {
        case Grip::spine: return Qt::SizeAllCursor;
        case Grip::fullLine:
        case Grip::noneLine: return Qt::SplitVCursor;
        case Grip::turn: return Qt::PointingHandCursor;
        case Grip::anew:
        case Grip::nothing: break;
    }
    return Qt::CrossCursor;
}

}  // namespace dimhem::ui
