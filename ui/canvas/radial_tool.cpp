#include "ui/canvas/radial_tool.h"

#include <cmath>
#include <numbers>

#include "ui/canvas/grip.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double newAfterPx = 6;
constexpr double turnGripPx = 26;  // beyond the end of the height axis
constexpr double degree = std::numbers::pi / 180;

base::Point along(const mask::Oval& oval) {
    return {std::cos(oval.angleDeg * degree), std::sin(oval.angleDeg * degree)};
}

base::Point across(const mask::Oval& oval) {
    return {-std::sin(oval.angleDeg * degree), std::cos(oval.angleDeg * degree)};
}

double dot(base::Point a, base::Point b) {
    return a.x * b.x + a.y * b.y;
}

// Where the grips stand on screen.
struct Grips {
    QPointF centre, right, left, top, bottom, inner, turn;
    Grips(const mask::Oval& oval, const Viewport& viewport) {
        const base::Point u = along(oval), v = across(oval);
        const auto at = [&](double a, double b) { return viewport.toScreen(oval.centre + u * a + v * b); };
        const double w = oval.halfWidthPx, h = oval.halfHeightPx, in = 1 - oval.featherPct / 100;
        centre = at(0, 0);
        right = at(w, 0);
        left = at(-w, 0);
        top = at(0, -h);
        bottom = at(0, h);
        inner = at(w * in * 0.7071, h * in * 0.7071);
        const QPointF up = top - centre;
        turn = top + up / std::max(1.0, std::hypot(up.x(), up.y())) * turnGripPx;
    }
};

}  // namespace

RadialTool::Grip RadialTool::gripAt(QPointF screen, const Viewport& viewport) const {
    const auto shown = selected<mask::RadialGradient>();
    if (!shown) return Grip::nothing;
    const Grips grips(shown->oval(), viewport);
    if (distance(screen, grips.turn) < reachPx) return Grip::turn;
    if (distance(screen, grips.right) < reachPx || distance(screen, grips.left) < reachPx) return Grip::width;
    if (distance(screen, grips.top) < reachPx || distance(screen, grips.bottom) < reachPx) return Grip::height;
    if (distance(screen, grips.centre) < reachPx * 1.5) return Grip::centre;
    if (distance(screen, grips.inner) < reachPx) return Grip::inner;
    return Grip::anew;
}

void RadialTool::press(const PointerEvent& event) {
    if (!selected<mask::RadialGradient>()) return;
    gesture_ = session_.begin({.stepName = QObject::tr("move gradient")});
    const auto shown = selected<mask::RadialGradient>();
    if (!shown) {
        gesture_.giveUp();
        return;
    }
    start_ = shown->oval();
    pressed_ = event;
    moved_ = false;
    grip_ = event.drawsAnew ? Grip::anew : gripAt(event.screen, viewport_);
}

mask::Oval RadialTool::dragged(const PointerEvent& event) const {
    mask::Oval oval = start_;
    const bool keep = event.modifiers & Qt::ShiftModifier;
    const base::Point fromCentre = event.place - start_.centre;
    const double a = std::abs(dot(fromCentre, along(start_))), b = std::abs(dot(fromCentre, across(start_)));
    switch (grip_) {
        case Grip::nothing: break;
        case Grip::centre: oval.centre = start_.centre + (event.place - pressed_.place); break;
        case Grip::width:
            oval.halfWidthPx = std::max(1.0, a);
            if (keep) oval.halfHeightPx = oval.halfWidthPx;
            break;
        case Grip::height:
            oval.halfHeightPx = std::max(1.0, b);
            if (keep) oval.halfWidthPx = oval.halfHeightPx;
            break;
        case Grip::inner: {
            const double rho = std::hypot(a / start_.halfWidthPx, b / start_.halfHeightPx);
            oval.featherPct = std::round(std::clamp(1 - rho, 0.0, 1.0) * 100);
            break;
        }
        case Grip::turn: {
            double angle = std::atan2(fromCentre.y, fromCentre.x) / degree + 90;
            if (keep) angle = std::round(angle / 15) * 15;
            oval.angleDeg = std::remainder(angle, 360);
            break;
        }
        case Grip::anew: {
            const base::Point way = event.place - pressed_.place;
            oval.angleDeg = 0;
            double w = std::abs(way.x), h = std::abs(way.y);
            if (keep) w = h = std::max(w, h);
            const bool fromCorner = event.modifiers & Qt::AltModifier;
            oval.halfWidthPx = std::max(1.0, fromCorner ? w / 2 : w);
            oval.halfHeightPx = std::max(1.0, fromCorner ? h / 2 : h);
            oval.centre = fromCorner
                              ? pressed_.place + base::Point{std::copysign(w / 2, way.x), std::copysign(h / 2, way.y)}
                              : pressed_.place;
            break;
        }
    }
    return oval;
}

void RadialTool::move(const PointerEvent& event) {
    if (!gesture_.isRunning()) return;
    if (grip_ == Grip::anew && !moved_ && distance(event.screen, pressed_.screen) < newAfterPx) return;
    moved_ = true;
    show(dragged(event));
}

void RadialTool::release(const PointerEvent&) {
    moved_ ? gesture_.commit() : gesture_.giveUp();
}

void RadialTool::show(const mask::Oval& oval) {
    gesture_.preview(withShape(std::make_shared<mask::RadialGradient>(oval)));
}

void RadialTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent*) const {
    const auto shown = selected<mask::RadialGradient>();
    if (!shown || !session_.correction()) return;
    const mask::Oval& oval = shown->oval();
    const QColor colour = threadColour(session_.correction()->threadColour);
    const Grips grips(oval, viewport);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto ring = [&](double part, double width) {
        painter.save();
        painter.translate(grips.centre);
        painter.rotate(oval.angleDeg);
        const double w = oval.halfWidthPx * part * viewport.zoom(), h = oval.halfHeightPx * part * viewport.zoom();
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(0, 0, 0, 130), width + 2));
        painter.drawEllipse(QPointF(), w, h);
        painter.setPen(stitchPen(colour, width));
        painter.drawEllipse(QPointF(), w, h);
        painter.restore();
    };
    ring(1, 1.4);
    if (oval.featherPct < 100) ring(1 - oval.featherPct / 100, 2.4);
    painter.setPen(QPen(QColor(0, 0, 0, 150), 1));
    painter.drawLine(grips.top, grips.turn);
    for (const QPointF at : {grips.right, grips.left, grips.top, grips.bottom}) paintGrip(painter, at, colour, false);
    paintGrip(painter, grips.inner, colour, true);
    paintGrip(painter, grips.turn, colour, false);
    painter.setBrush(colour);
    painter.drawRoundedRect(QRectF(grips.centre.x() - 5, grips.centre.y() - 5, 10, 10), 2.5, 2.5);
}

QCursor RadialTool::cursor(const PointerEvent& pointer, const Viewport& viewport) const {
    switch (gripAt(pointer.screen, viewport)) {
        case Grip::centre: return Qt::SizeAllCursor;
        case Grip::width:
        case Grip::height: {
            const auto shown = selected<mask::RadialGradient>();
            return shown ? resizeCursor(pointer.screen - viewport.toScreen(shown->oval().centre)) : Qt::CrossCursor;
        }
        case Grip::inner:
        case Grip::turn: return Qt::PointingHandCursor;
        case Grip::anew:
        case Grip::nothing: break;
    }
    return Qt::CrossCursor;
}

}  // namespace dimhem::ui
