#include "ui/canvas/brush_tool.h"

#include <algorithm>
#include <cmath>

#include "core/document/edits.h"
#include "core/mask/held_stroke.h"
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
mask::StrokePoint BrushTool::pointOf(const PointerEvent& event) {
    if (!session_.penStandIn() || event.pressure < 1) return {event.place, std::clamp(event.pressure, 0.0, 1.0)};
    if (!stroke_) {
        standIn_ = 0.6;
    } else {
        constexpr double slowPxPerMs = 0.15, fastPxPerMs = 2.5;
        const base::Point way = event.place - stroke_->points().back().at;
        const double speed = std::hypot(way.x, way.y) * viewport_.zoom() /
                             static_cast<double>(std::max<qint64>(1, sinceLast_.elapsed()));
        const double wanted = 1 - std::clamp((speed - slowPxPerMs) / (fastPxPerMs - slowPxPerMs), 0.0, 1.0) * 0.85;
        standIn_ += (wanted - standIn_) * 0.3;
    }
    sinceLast_.start();
    return {event.place, standIn_};
}

void BrushTool::press(const PointerEvent& event) {
    const mask::Part* part = session_.part();
    brush_ = part ? std::dynamic_pointer_cast<const mask::Brush>(part->shape) : nullptr;
    if (!brush_) return;
    before_ = session_.document();
    const auto from = event.modifiers & Qt::ShiftModifier ? straightFrom() : std::nullopt;
    if (from) {
        const mask::StrokePoint ends[] = {{*from, 1}, pointOf(event)};
        stroke_ = mask::Stroke::through(session_.brush(), ends);
    } else {
        stroke_ = std::make_shared<const mask::Stroke>(session_.brush(), pointOf(event));
    }
    show();
}

void BrushTool::move(const PointerEvent& event) {
    if (!stroke_ || event.place == stroke_->points().back().at) return;
    stroke_ = stroke_->extended(pointOf(event));
    show();
}

void BrushTool::release(const PointerEvent&) {
    if (!stroke_) return;
    const bool removes = stroke_->brush().removes;
    const document::DocumentPtr shown = session_.document();
    const mask::StrokePtr whole = std::exchange(stroke_, nullptr)->finished();
    session_.commit(withStroke(whole), removes ? QObject::tr("removing brush stroke") : QObject::tr("brush stroke"),
                    shown);
}

void BrushTool::cancel() {
    if (!stroke_) return;
    stroke_.reset();
    session_.dropPreview();
}

document::DocumentPtr BrushTool::withStroke(const mask::StrokePtr& stroke) const {
    return document::withPart(*before_, session_.selectedCorrection(), session_.selectedPart(),
                              [&](mask::Part& part) { part.shape = brush_->withStroke(stroke); });
}

void BrushTool::show() {
    session_.preview(withStroke(stroke_));
}

// The colour that is held to, in the ring's middle, as large as the part of the photo it is taken from, or as can be
// seen.
void BrushTool::paintHeldColour(QPainter& painter, const PointerEvent& pointer) const {
    render::Comparison asItWas;
    asItWas.allOff = true;
    const render::Sequence photo(session_.document(), asItWas);
    const auto sight = session_.renderer().sight(photo, session_.selectedCorrection());
    const auto held = mask::holdColourAt(pointer.place, session_.brush().sizePx, *sight);
    const auto channel = [](float v) { return std::clamp(static_cast<int>(std::lround(v * 255)), 0, 255); };
    painter.setPen(QPen(QColor(0, 0, 0, 170), 1.5));
    painter.setBrush(QColor(channel(held[0]), channel(held[1]), channel(held[2])));
    const double radius = std::clamp(session_.brush().sizePx * viewport_.zoom() * 0.05, 4.0, 9.0);
    painter.drawEllipse(pointer.screen, radius, radius);
}

std::optional<base::Point> BrushTool::straightFrom() const {
    const mask::Part* part = session_.part();
    const auto brush = part ? std::dynamic_pointer_cast<const mask::Brush>(part->shape) : nullptr;
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
