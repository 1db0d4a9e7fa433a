#include "ui/canvas/range_tool.h"

#include <algorithm>
#include <cmath>

#include "core/colour/hsl.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/task/probe.h"
#include "ui/canvas/grip.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int clickRadiusPx = 2;   // a click reads 5 x 5 pixels
constexpr int veilRadiusPx = 12;   // of what is read of a veil
constexpr double areaAfterPx = 5;  // on screen: a longer drag averages an area
constexpr double fadeTones = 12;   // L* over which a range set on the photo fades
constexpr double tonesPerScreenPx = 0.15;
constexpr double mostRadiusPx = 400;  // of an area that is averaged

}  // namespace

namespace {

mask::Seen seenBy(const mask::ShapePtr& shape) {
    if (const auto* tones = dynamic_cast<const mask::LuminosityRange*>(shape.get())) return tones->values().seen;
    if (const auto* haze = dynamic_cast<const mask::HazeDepth*>(shape.get())) return haze->values().seen;
    if (const auto* veil = dynamic_cast<const mask::VeilDensity*>(shape.get())) return veil->values().seen;
    return static_cast<const mask::ColourRange&>(*shape).values().seen;
}

bool isFinite(const colour::LinearRgb& colour) {
    return std::isfinite(colour.r) && std::isfinite(colour.g) && std::isfinite(colour.b);
}

// What was pressed on, of 0..100, and as much to both sides as the hand goes away from it.
mask::Range rangeAbout(double value, double awayPx) {
    const double middle = std::clamp(value, 0.0, 100.0), half = 4 + tonesPerScreenPx * awayPx;
    const double low = std::max(0.0, middle - half), high = std::min(100.0, middle + half);
    return {{std::max(0.0, low - fadeTones), low, high, std::min(100.0, high + fadeTones)}};
}

// The share of haze at a place; the comparison's sequence is that of `document`.
double hazeAt(const mask::HazeDepth& shape, const render::Renderer& renderer, const document::DocumentPtr& document,
              document::Id correction, base::Point place) {
    const render::Sequence sequence(document, {});
    const auto context = renderer.maskContext(sequence, correction);
    const int x = static_cast<int>(std::floor(place.x)), y = static_cast<int>(std::floor(place.y));
    const mask::Area area{{x - clickRadiusPx, y - clickRadiusPx, x + clickRadiusPx + 1, y + clickRadiusPx + 1}, 0};
    const auto haze = shape.hazeOver(area, *context).value();
    double sum = 0;
    for (int row = 0; row < haze->size().height; ++row) {
        for (const float share : haze->row(row)) sum += double{share};
    }
    return sum / (area.rect.width() * area.rect.height());
}

mask::ShapePtr withPick(const mask::ColourRange& start, base::Point place, const colour::LinearRgb& colour) {
    mask::ColourRangeValues values = start.values();
    if (values.byHue) {
        const colour::EncodedRgb encoded = colour::encodedFromLinear(colour);
        const double hue = colour::hslHueDeg(encoded);
        const auto& p = values.hues.points;
        const double shift = std::remainder(hue - (p[1] + p[2]) / 2, 360);
        for (double& v : values.hues.points) v += shift;
        if (std::abs(values.hues.points[0]) > 360) {
            const double turn = values.hues.points[0] > 0 ? -360 : 360;
            for (double& v : values.hues.points) v += turn;
        }
        values.picks.clear();
    }
    values.picks.push_back({place, colour::labFromLinear(colour)});
    return std::make_shared<mask::ColourRange>(values);
}

}  // namespace

// A limit is all there is to be set: nothing is taken away beside it.
bool RangeTool::takesFromItself(const PointerEvent& event) const {
    return session_.worksOnLimit() || isOnPick(event);
}

bool RangeTool::isOnPick(const PointerEvent& event) const {
    const auto colours = selected<mask::ColourRange>();
    return colours && std::ranges::any_of(colours->values().picks, [&](const mask::ColourPick& pick) {
               return distance(viewport_.toScreen(pick.place), event.screen) < reachPx;
           });
}

void RangeTool::press(const PointerEvent& event) {
    const auto colours = selected<mask::ColourRange>();
    const bool isKnown =
        colours || selected<mask::LuminosityRange>() || selected<mask::HazeDepth>() || selected<mask::VeilDensity>();
    if (!isKnown) return;
    if (colours && event.takesAway) {
        if (isOnPick(event)) removeNearestPick(event.place);
        return;
    }
    if (colours && !colours->values().byHue && colours->values().picks.size() >= mask::mostPicks) {
        session_.say(
            QObject::tr(
                "A colour range takes %1 picks: take some away with Ctrl and a click on them, or add another range.")
                .arg(mask::mostPicks));
        return;
    }
    pick_ = std::make_shared<Pick>(session_);
    pick_->stepName = colours                         ? QObject::tr("pick colour")
                      : selected<mask::HazeDepth>()   ? QObject::tr("set haze on photo")
                      : selected<mask::VeilDensity>() ? QObject::tr("set veil on photo")
                                                      : QObject::tr("set tones on photo");
    pick_->gesture = session_.begin({.stepName = pick_->stepName});
    pick_->start = session_.workedOnShape();
    pick_->pressed = pick_->last = event;
    if (!pick_->gesture.isRunning() || !pick_->start) return;
    pick_->target = pick_->gesture.target();
    read(pick_);
}

void RangeTool::removeNearestPick(base::Point place) {
    const auto nearer = [place](const mask::ColourPick& a, const mask::ColourPick& b) {
        const base::Point da = a.place - place, db = b.place - place;
        return da.x * da.x + da.y * da.y < db.x * db.x + db.y * db.y;
    };
    const auto of = session_.worksOnLimit() ? &mask::Part::limit : &mask::Part::shape;
    session_.edit(QObject::tr("take pick away"), [&](const document::Document& d) {
        return document::withPart(d, session_.selectedCorrection(), session_.selectedPart(), [&](mask::Part& part) {
            const auto range = std::dynamic_pointer_cast<const mask::ColourRange>(part.*of);
            if (!range || range->values().picks.empty()) return;
            mask::ColourRangeValues values = range->values();
            values.picks.erase(std::min_element(values.picks.begin(), values.picks.end(), nearer));
            part.*of = std::make_shared<mask::ColourRange>(values);
        });
    });
}

double RangeTool::awayPx(const Pick& pick) {
    return std::hypot(pick.last.screen.x() - pick.pressed.screen.x(), pick.last.screen.y() - pick.pressed.screen.y());
}

RangeTool::Place RangeTool::placeOf(const Pick& pick) {
    const bool isArea = awayPx(pick) > areaAfterPx && dynamic_cast<const mask::ColourRange*>(pick.start.get());
    // A veil lies over things of all tones: many of them are read.
    if (dynamic_cast<const mask::VeilDensity*>(pick.start.get())) return {pick.pressed.place, veilRadiusPx};
    if (!isArea) return {pick.pressed.place, clickRadiusPx};
    const base::Point way = pick.last.place - pick.pressed.place;
    const double half = std::max(std::abs(way.x), std::abs(way.y)) / 2;
    return {(pick.pressed.place + pick.last.place) * 0.5, static_cast<int>(std::min(half, mostRadiusPx))};
}

void RangeTool::read(const PickPtr& pick) {
    render::Comparison comparison;
    const mask::Seen seen = seenBy(pick->start);
    comparison.allOff = seen == mask::Seen::photo;
    comparison.stopBefore = seen == mask::Seen::arriving ? pick->target.correction : 0;
    if (pick->reader.isIdle()) session_.countReading(1);
    pick->reader.request(
        [renderer = session_.sharedRenderer(), base = pick->gesture.base(), comparison, place = placeOf(*pick),
         start = pick->start,
         correction = pick->target.correction](const base::CancelToken& token) -> std::optional<Reading> {
            const auto colour =
                task::colourAt(*renderer, render::Sequence(base, comparison, token), place.middle, place.radiusPx);
            if (!colour || !isFinite(*colour)) return std::nullopt;
            const auto* haze = dynamic_cast<const mask::HazeDepth*>(start.get());
            return Reading{*colour, haze ? hazeAt(*haze, *renderer, base, correction, place.middle) : 0};
        },
        [this, pick, place = placeOf(*pick),
         opening = session_.opening()](const base::Result<std::optional<Reading>>& read) {
            if (pick->reader.isIdle()) session_.countReading(-1);
            if (session_.opening() == opening) take(pick, place, read.value_or(std::nullopt));
        });
}

mask::ShapePtr RangeTool::laidAbout(const Pick& pick, const mask::ShapePtr& shape, const Reading& reading) {
    if (const auto* tones = dynamic_cast<const mask::LuminosityRange*>(shape.get())) {
        mask::LuminosityRangeValues values = tones->values();
        values.tones = rangeAbout(colour::labFromLinear(reading.colour).l, awayPx(pick));
        return std::make_shared<mask::LuminosityRange>(values);
    }
    if (const auto* haze = dynamic_cast<const mask::HazeDepth*>(shape.get())) {
        mask::HazeDepthValues values = haze->values();
        values.haze = rangeAbout(reading.hazePct, awayPx(pick));
        return std::make_shared<mask::HazeDepth>(values);
    }
    if (const auto* veil = dynamic_cast<const mask::VeilDensity*>(shape.get())) {
        mask::VeilDensityValues values = veil->values();
        const bool clear = pick.pressed.picks;
        (clear ? values.clear : values.dense) = reading.colour;
        return std::make_shared<mask::VeilDensity>(values);
    }
    return shape;
}

// The answer: shown, or where the hand has let go meanwhile, a step.
void RangeTool::take(const PickPtr& pick, const Place& place, const std::optional<Reading>& reading) {
    if (!reading) {
        if (pick->reader.isIdle()) pick->gesture.giveUp();
        return;
    }
    pick->read = reading;
    const auto changed = [&](const mask::ShapePtr& shape) -> mask::ShapePtr {
        const auto* colours = dynamic_cast<const mask::ColourRange*>(shape.get());
        if (!colours) return laidAbout(*pick, shape, *reading);
        return colours->values().picks.size() < mask::mostPicks ? withPick(*colours, place.middle, reading->colour)
                                                                : shape;
    };
    const auto version = [&](const document::Document& d) {
        return document::withPart(d, pick->target.correction, pick->target.part, [&](mask::Part& part) {
            mask::ShapePtr& shape = part.*pick->target.of;
            if (shape) shape = changed(shape);
        });
    };
    if (pick->gesture.isRunning()) {
        pick->gesture.preview(version(*pick->gesture.base()));
        if (pick->released && pick->reader.isIdle()) pick->gesture.commit();
    } else if (pick->released && pick->reader.isIdle()) {
        // Something else has begun since the hand let go: what it asked for is a step of its own.
        session_.edit(pick->stepName, version);
    }
}

void RangeTool::move(const PointerEvent& event) {
    if (!pick_ || !pick_->gesture.isRunning()) return;
    pick_->last = event;
    if (dynamic_cast<const mask::ColourRange*>(pick_->start.get())) {
        read(pick_);
    } else if (pick_->read) {
        pick_->gesture.preview(document::withPart(
            *pick_->gesture.base(), pick_->target.correction, pick_->target.part,
            [&](mask::Part& part) { part.*pick_->target.of = laidAbout(*pick_, pick_->start, *pick_->read); }));
    }
}

void RangeTool::cancel() {
    if (pick_) pick_->gesture.giveUp();
}

void RangeTool::release(const PointerEvent&) {
    if (!pick_) return;
    pick_->released = true;
    if (pick_->reader.isIdle()) pick_->gesture.commit();
}

void RangeTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent*) const {
    const auto range = selected<mask::ColourRange>();
    if (!range || !session_.correction()) return;
    painter.setRenderHint(QPainter::Antialiasing);
    const QColor thread = threadColour(session_.correction()->threadColour);
    for (const mask::ColourPick& pick : range->values().picks) {
        const colour::EncodedRgb c = colour::encodedFromLinear(colour::linearFromXyz(colour::xyzFromLab(pick.colour)));
        const auto channel = [](double v) { return static_cast<float>(std::clamp(v, 0.0, 1.0)); };
        painter.setBrush(QColor::fromRgbF(channel(c.r), channel(c.g), channel(c.b)));
        paintCircle(painter, viewport.toScreen(pick.place), 6, QPen(thread, 1.5));
    }
    if (isActive() && awayPx(*pick_) > areaAfterPx) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(thread, 1.2, Qt::DashLine));
        painter.drawRect(QRectF(pick_->pressed.screen, pick_->last.screen).normalized());
    }
}

}  // namespace dimhem::ui
