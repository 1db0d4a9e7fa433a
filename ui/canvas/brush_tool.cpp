#include "ui/canvas/brush_tool.h"

#include <algorithm>
#include <cmath>

#include "core/adjust/paint.h"
#include "core/document/pair.h"
#include "ui/canvas/grip.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"
#include "ui/session/brush_colour.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

namespace {

void paintRing(QPainter& painter, QPointF centre, const mask::BrushSettings& brush, double zoom, const QColor& colour) {
    const double radius = brush.sizePx / 2 * zoom, softness = brush.softnessPct / 100;
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
    const double half = std::max(1.0, (core + radius) / 2);   // where coverage is one half
    const double line = 0.8 + 1.2 * brush.strengthPct / 100;  // the weaker, the thinner
    paintCircle(painter, centre, half, brush.removes ? stitchPen(colour, line) : QPen(colour, line));
}

// The way of a stroke whose outcome only shows when it is done.
void paintZone(QPainter& painter, const Viewport& viewport, const mask::Stroke& stroke, const QColor& colour) {
    QPolygonF way;
    for (const mask::StrokePoint& point : stroke.points()) way << viewport.toScreen(point.at);
    if (way.size() == 1) way << way.front() + QPointF(0.1, 0);
    QColor veil = colour;
    veil.setAlpha(70);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(
        QPen(veil, std::max(1.0, stroke.brush().sizePx * viewport.zoom()), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(way);
}

QString stepName(const mask::BrushSettings& brush) {
    if (brush.removes) return QObject::tr("removing brush stroke");
    switch (brush.brings.kind) {
        case mask::BringKind::nothing: break;
        case mask::BringKind::colour: return QObject::tr("stroke of colour");
        case mask::BringKind::clone: return QObject::tr("clone");
        case mask::BringKind::heal: return QObject::tr("heal");
        case mask::BringKind::line: return QObject::tr("fill line");
    }
    return QObject::tr("brush stroke");
}

// Whether what strokes bring shows.
bool laysDown(const document::Correction& correction) {
    return std::ranges::any_of(correction.adjustments,
                               [](const document::AdjustmentUse& use) { return use.kind == &adjust::paint; });
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

void BrushTool::pick(base::Point place) {
    const mask::BringKind kind = session_.brush().brings.kind;
    if (kind == mask::BringKind::colour) return pickBrushColour(session_, place);
    if (kind != mask::BringKind::clone && kind != mask::BringKind::heal) return;
    Bringing bringing = session_.bringing();
    bringing.from = place;
    bringing.offset.reset();
    bringing.finds = false;
    session_.setBringing(bringing);
}

std::optional<mask::BrushSettings> BrushTool::brushAt(const PointerEvent& event) {
    const base::Point place = event.place;
    mask::BrushSettings brush = session_.brushThat(takesAway(event));
    if (event.drawsAnew) brush.removes = false;  // it is the part that takes away
    mask::Brings& brings = brush.brings;
    const bool takes =
        brings.kind == mask::BringKind::clone || (brings.kind == mask::BringKind::heal && !session_.bringing().finds);
    if (!takes || brush.removes) return brush;
    Bringing bringing = session_.bringing();
    if (!bringing.from) {
        session_.say(QObject::tr("Pick the place to take from first: Alt and a click, or a click with %1 held.")
                         .arg(keyText("pick")));
        return std::nullopt;
    }
    bringing.offset = bringing.offsetFor(place);
    // Whole pixels, so that nothing is softened by lying between them.
    brings.offset = base::Point{std::round(bringing.offset->x), std::round(bringing.offset->y)};
    session_.setBringing(bringing);
    return brush;
}

// Whether the last stroke was a press here that healed by a place it found.
bool BrushTool::healsAgain(const mask::BrushSettings& brush, base::Point place) const {
    const auto part = selected<mask::Brush>();
    if (!part || part->strokes().empty() || brush.brings.kind != mask::BringKind::heal || brush.brings.offset ||
        brush.removes)
        return false;
    const mask::Stroke& last = *part->strokes().back();
    const mask::Brings& brings = last.brush().brings;
    const base::Point way = last.points().back().at - place;
    return brings.kind == mask::BringKind::heal && !brings.offset && !last.brush().removes &&
           last.points().size() == 1 && std::hypot(way.x, way.y) < last.brush().sizePx / 4;
}

// Of a pair: the other one, for a stroke with Alt that picks nothing. Null: the stroke is the selected part's own.
const document::Correction* BrushTool::counterpart(const PointerEvent& event) const {
    if (!event.picks || picks(event) || event.drawsAnew || !session_.correction()) return nullptr;
    const document::Id other = document::otherOfPair(*session_.document(), session_.selectedCorrection());
    return other ? document::findCorrection(*session_.document(), other) : nullptr;
}

// The painting that loses what a stroke of the correction gains; none where there is nothing to lose.
std::optional<BrushTool::Losing> BrushTool::losing(const EditTarget& gains, const mask::Stroke& stroke) const {
    const document::DocumentPtr& base = gesture_.base();
    const document::Id other = document::otherOfPair(*base, gains.correction);
    if (!other || stroke.brush().removes) return std::nullopt;
    const mask::Part& gaining = *mask::findPart(document::findCorrection(*base, gains.correction)->mask, gains.part);
    if (gaining.combine != mask::Combine::add || gaining.shape->isZone()) return std::nullopt;
    const document::Correction& found = *document::findCorrection(*base, other);
    const mask::PartId part = document::paintedPart(found);
    const auto painted =
        part ? std::dynamic_pointer_cast<const mask::Brush>(mask::findPart(found.mask, part)->shape) : nullptr;
    if (!painted || painted->strokes().empty()) return std::nullopt;
    mask::BrushSettings removing = stroke.brush();
    removing.removes = true;
    removing.brings = {};
    const std::span<const mask::StrokePoint> points(stroke.points().begin(), stroke.points().size());
    return Losing{{other, part}, painted, mask::Stroke::through(removing, points)};
}

bool BrushTool::picks(const PointerEvent& event) const {
    return event.picks && session_.brush().brings.kind != mask::BringKind::nothing;
}

bool BrushTool::takesAway(const PointerEvent& event) const {
    if (counterpart(event)) return false;
    return (event.takesAway || session_.brush().removes) && !picks(event);
}

bool BrushTool::takesFromItself(const PointerEvent&) const {
    const auto part = selected<mask::Brush>();
    return part && (part->isZone() || !part->strokes().empty());
}

void BrushTool::press(const PointerEvent& event) {
    const auto part = selected<mask::Brush>();
    if (!part) return;
    if (picks(event)) return pick(event.place);
    auto wanted = brushAt(event);
    if (!wanted) return;
    mask::BrushSettings brush = *wanted;
    if (event.drawsAnew) {
        brush.brings.kind = mask::BringKind::nothing;
        session_.say(QObject::tr("There was nothing to remove in this part: it takes away from the mask instead."));
    }
    if (const document::Correction* other = counterpart(event)) return pressInto(*other, brush, event);
    if (healsAgain(brush, event.place)) {
        const mask::Stroke& last = *part->strokes().back();
        brush = last.brush();
        brush.brings.rank = (brush.brings.rank + 1) % (mask::mostRank + 1);
        begin(mask::Stroke::through(brush, std::vector{last.points()[0]}), part->withoutLast());
        return;
    }
    const auto from = event.modifiers & Qt::ShiftModifier ? straightFrom() : std::nullopt;
    if (from) {
        const mask::StrokePoint ends[] = {{*from, 1}, pointOf(event, true)};
        begin(mask::Stroke::through(brush, ends), part);
    } else {
        begin(std::make_shared<const mask::Stroke>(brush, pointOf(event, true)), part);
    }
}

void BrushTool::pressInto(const document::Correction& other, mask::BrushSettings brush, const PointerEvent& event) {
    const mask::PartId part = document::paintedPart(other);
    if (!part) {
        session_.say(
            QObject::tr("%1 has no brush to paint with: add one to its mask.").arg(QString::fromStdString(other.name)));
        return;
    }
    if (document::shareOf(*session_.document(), other) <= 0)
        session_.say(QObject::tr("%1 is switched off: what is painted into it does not show.")
                         .arg(QString::fromStdString(other.name)));
    brush.removes = false;
    const auto painted = std::dynamic_pointer_cast<const mask::Brush>(mask::findPart(other.mask, part)->shape);
    begin(std::make_shared<const mask::Stroke>(brush, pointOf(event, true)), painted, EditTarget{other.id, part});
}

bool BrushTool::begin(mask::StrokePtr stroke, std::shared_ptr<const mask::Brush> over,
                      std::optional<EditTarget> target) {
    gesture_ =
        session_.begin({.stepName = stepName(stroke->brush()), .interrupted = [this] { finish(); }, .target = target});
    brush_ = std::move(over);
    if (!selected<mask::Brush>()) gesture_.giveUp();
    if (!gesture_.isRunning()) return false;
    losing_ = losing(gesture_.target(), *stroke);
    lays_.reset();
    const bool brings = stroke->brush().brings.kind != mask::BringKind::nothing && !stroke->brush().removes;
    if (!target && brings && !laysDown(*session_.correction())) {
        const adjust::AdjustmentKind& kind = adjust::paint;
        lays_ = document::AdjustmentUse{session_.document()->ids->next(), &kind, true, adjust::startingSettings(kind)};
    }
    stroke_ = std::move(stroke);
    gesture_.preview(withStroke(stroke_));
    return true;
}

document::DocumentPtr BrushTool::withStroke(mask::StrokePtr stroke) const {
    document::DocumentPtr painted = withShape(brush_->withStroke(std::move(stroke)));
    if (losing_) {
        painted = document::withPart(*painted, losing_->of.correction, losing_->of.part, [&](mask::Part& part) {
            part.shape = losing_->painted->withStroke(losing_->stroke);
        });
    }
    if (!lays_) return painted;
    return document::withCorrection(*painted, gesture_.target().correction, [&](document::Correction& correction) {
        correction.adjustments.insert(correction.adjustments.begin(), *lays_);
    });
}

void BrushTool::move(const PointerEvent& event) {
    if (!gesture_.isRunning() || event.place == stroke_->points().back().at) return;
    const mask::StrokePoint next = pointOf(event, false);
    if (stroke_->isFull()) {
        // A document holds no longer ones: another goes on where this one ends.
        const mask::StrokePoint last = stroke_->points().back();
        const mask::BrushSettings brush = stroke_->brush();
        if (!goOn(brush, last)) return;
    }
    if (losing_) losing_->stroke = losing_->stroke->extended(next);
    stroke_ = stroke_->extended(next);
    gesture_.preview(withStroke(stroke_));
}

bool BrushTool::goOn(const mask::BrushSettings& brush, const mask::StrokePoint& from) {
    const EditTarget target = gesture_.target();
    finish();
    const document::Correction* correction = document::findCorrection(*session_.document(), target.correction);
    const mask::Part* part = correction ? mask::findPart(correction->mask, target.part) : nullptr;
    const auto painted = part ? std::dynamic_pointer_cast<const mask::Brush>(part->shape) : nullptr;
    return painted && begin(std::make_shared<const mask::Stroke>(brush, from), painted, target);
}

void BrushTool::release(const PointerEvent&) {
    finish();
}

void BrushTool::finish() {
    if (!gesture_.isRunning()) return;
    if (losing_) losing_->stroke = losing_->stroke->finished();
    gesture_.commit(withStroke(stroke_->finished()));
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

// To where the brush takes from, with a ring there as large as its own.
void BrushTool::paintThread(QPainter& painter, const Viewport& viewport, const PointerEvent& pointer,
                            const QColor& colour) const {
    const mask::Brings& brings = isActive() ? stroke_->brush().brings : session_.brush().brings;
    const bool takes =
        brings.kind == mask::BringKind::clone || (brings.kind == mask::BringKind::heal && !session_.bringing().finds);
    const auto offset = isActive() ? brings.offset : session_.bringing().offsetFor(pointer.place);
    if (!takes || !offset) return;
    const QPointF from = viewport.toScreen(pointer.place + *offset);
    const double radius = std::max(3.0, session_.brush().sizePx / 2 * viewport.zoom());
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(stitchPen(colour, 1.2));
    painter.drawLine(pointer.screen, from);
    paintCircle(painter, from, radius, QPen(colour, 1.2));
    painter.drawPoint(from);
}

std::optional<base::Point> BrushTool::straightFrom() const {
    const auto brush = selected<mask::Brush>();
    if (!brush || brush->strokes().empty()) return std::nullopt;
    return brush->strokes().back()->points().back().at;
}

void BrushTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const {
    if (!pointer || !session_.correction()) return;
    const mask::BrushSettings brush = isActive() ? stroke_->brush() : session_.brushThat(takesAway(*pointer));
    const document::Correction* other =
        isActive() ? document::findCorrection(*session_.document(), gesture_.target().correction)
                   : counterpart(*pointer);
    const QColor colour = threadColour((other ? other : session_.correction())->threadColour);
    if (!isActive() && pointer->modifiers & Qt::ShiftModifier) {
        if (const auto from = straightFrom()) {
            painter.setRenderHint(QPainter::Antialiasing);
            painter.setPen(stitchPen(colour, 1.6));
            painter.drawLine(viewport.toScreen(*from), pointer->screen);
        }
    }
    if (isActive() && brush_->isZone()) paintZone(painter, viewport, *stroke_, colour);
    paintRing(painter, pointer->screen, brush, viewport.zoom(), colour);
    if (brush.holds) paintHeldColour(painter, *pointer);
    paintThread(painter, viewport, *pointer, colour);
}

QCursor BrushTool::cursor(const PointerEvent& pointer, const Viewport& viewport) const {
    // A ring too small to be seen gets a cross in its place.
    return session_.brushThat(takesAway(pointer)).sizePx / 2 * viewport.zoom() < 4 ? Qt::CrossCursor : Qt::BlankCursor;
}

}  // namespace dimhem::ui
