#include "ui/canvas/brush_tool.h"

#include <algorithm>
#include <cmath>

#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

void paintRing(QPainter& painter, QPointF centre, double radius, double softness, const QColor& colour, bool removes) {
    painter.setRenderHint(QPainter::Antialiasing);
    // The shade shows where the rim really fades: from the core to the outer edge.
    const double core = radius * (1 - softness);
    if (radius - core > 3) {
        QRadialGradient shade(centre, radius);
        shade.setColorAt(0, Qt::transparent);
        shade.setColorAt(std::clamp(core / radius, 0.0, 0.999), QColor(0, 0, 0, 0));
        shade.setColorAt(std::clamp((core + radius) / 2 / radius, 0.0, 0.9995), QColor(0, 0, 0, 60));
        shade.setColorAt(1, Qt::transparent);
        painter.setPen(Qt::NoPen);
        painter.setBrush(shade);
        painter.drawEllipse(centre, radius, radius);
    }
    painter.setBrush(Qt::NoBrush);
    const double half = std::max(1.0, (core + radius) / 2);  // where coverage is one half
    painter.setPen(QPen(QColor(0, 0, 0, 140), 3));
    painter.drawEllipse(centre, half, half);
    QPen ring = removes ? stitchPen(colour, 1.6) : QPen(colour, 1.6);
    painter.setPen(ring);
    painter.drawEllipse(centre, half, half);
}

}  // namespace

// For those with a mouse: a slow hand presses hard, a fast one lightly, as a pen does by itself. Eased, so that it does
// not jump from event to event.
mask::StrokePoint BrushTool::pointOf(const PointerEvent& event, bool isFirst) {
    if (!session_.penStandIn() || event.pressure < 1) return {event.place, std::clamp(event.pressure, 0.0, 1.0)};
    if (isFirst) {
        standIn_ = 0.6;
    } else {
        constexpr double slowPxPerMs = 0.15, fastPxPerMs = 2.5;
        const base::Point way = event.place - stroke_->points().back().at;
        const double speed = std::hypot(way.x, way.y) * viewport_.zoom() /
                             static_cast<double>(std::max<quint64>(1, event.timeMs - std::min(lastMs_, event.timeMs)));
        const double wanted = 1 - std::clamp((speed - slowPxPerMs) / (fastPxPerMs - slowPxPerMs), 0.0, 1.0) * 0.85;
        standIn_ += (wanted - standIn_) * 0.3;
    }
    lastMs_ = event.timeMs;
    return {event.place, standIn_};
}

void BrushTool::press(const PointerEvent& event) {
    if (!selected<mask::Brush>()) return;
    mask::BrushSettings brush = session_.brush();
    brush.removes = brush.removes || event.eraser;
    const auto from = event.modifiers & Qt::ShiftModifier ? straightFrom() : std::nullopt;
    if (from) {
        const mask::StrokePoint ends[] = {{*from, 1}, pointOf(event, true)};
        begin(mask::Stroke::through(brush, ends));
    } else {
        begin(std::make_shared<const mask::Stroke>(brush, pointOf(event, true)));
    }
}

bool BrushTool::begin(mask::StrokePtr stroke) {
    const bool removes = stroke->brush().removes;
    gesture_ = session_.begin({.stepName = removes ? QObject::tr("removing brush stroke") : QObject::tr("brush stroke"),
                               .interrupted = [this] { finish(); }});
    brush_ = selected<mask::Brush>();
    if (!brush_) gesture_.giveUp();
    if (!gesture_.isRunning()) return false;
    stroke_ = std::move(stroke);
    gesture_.preview(withShape(brush_->withStroke(stroke_)));
    return true;
}

void BrushTool::move(const PointerEvent& event) {
    if (!gesture_.isRunning() || event.place == stroke_->points().back().at) return;
    const mask::StrokePoint next = pointOf(event, false);
    if (stroke_->isFull()) {
        // A document holds no longer ones: another goes on where this one ends.
        const mask::StrokePoint last = stroke_->points().back();
        const mask::BrushSettings brush = stroke_->brush();
        finish();
        if (!begin(std::make_shared<const mask::Stroke>(brush, last))) return;
    }
    stroke_ = stroke_->extended(next);
    gesture_.preview(withShape(brush_->withStroke(stroke_)));
}

void BrushTool::release(const PointerEvent&) {
    finish();
}

void BrushTool::finish() {
    if (gesture_.isRunning()) gesture_.commit(withShape(brush_->withStroke(stroke_->finished())));
}

// The colour that is held to, in the ring's middle, as large as the part of the photo it is taken from, or as can be
// seen; as it was read with the newest frame.
void BrushTool::paintHeldColour(QPainter& painter, const PointerEvent& pointer) const {
    const auto& read = session_.pointer();
    if (!read || !read->held) return;
    const auto channel = [](float v) { return std::clamp(static_cast<int>(std::lround(v * 255)), 0, 255); };
    const auto& held = *read->held;
    painter.setPen(QPen(QColor(0, 0, 0, 170), 1.5));
    painter.setBrush(QColor(channel(held[0]), channel(held[1]), channel(held[2])));
    const double radius = std::clamp(session_.brush().sizePx * viewport_.zoom() * 0.05, 4.0, 9.0);
    painter.drawEllipse(pointer.screen, radius, radius);
}

std::optional<base::Point> BrushTool::straightFrom() const {
    const auto brush = selected<mask::Brush>();
    if (!brush || brush->strokes().empty()) return std::nullopt;
    return brush->strokes().back()->points().back().at;
}

void BrushTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const {
    if (!pointer || !session_.correction()) return;
    const mask::BrushSettings& brush = session_.brush();
    const QColor colour = threadColour(session_.correction()->threadColour);
    if (!isActive() && pointer->modifiers & Qt::ShiftModifier) {
        if (const auto from = straightFrom()) {
            painter.setRenderHint(QPainter::Antialiasing);
            painter.setPen(stitchPen(colour, 1.6));
            painter.drawLine(viewport.toScreen(*from), pointer->screen);
        }
    }
    paintRing(painter, pointer->screen, brush.sizePx / 2 * viewport.zoom(), brush.softnessPct / 100, colour,
              brush.removes);
    if (brush.holds) paintHeldColour(painter, *pointer);
}

QCursor BrushTool::cursor(const PointerEvent&, const Viewport& viewport) const {
    // A ring too small to be seen gets a cross in its place.
    return session_.brush().sizePx / 2 * viewport.zoom() < 4 ? Qt::CrossCursor : Qt::BlankCursor;
}

}  // namespace dimhem::ui
