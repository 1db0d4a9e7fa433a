#include "ui/canvas/range_tool.h"

#include <algorithm>
#include <cmath>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/task/probe.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int clickRadiusPx = 2;   // a click reads 5 x 5 pixels
constexpr double areaAfterPx = 5;  // on screen: a longer drag averages an area
constexpr double fadeTones = 12;   // L* over which a range set on the photo fades
constexpr double tonesPerScreenPx = 0.15;
constexpr int mostRadiusPx = 400;  // of an area that is averaged

}  // namespace

namespace {

mask::Seen seenBy(const mask::ShapePtr& shape) {
    if (const auto* tones = dynamic_cast<const mask::LuminosityRange*>(shape.get())) return tones->values().seen;
    return static_cast<const mask::ColourRange&>(*shape).values().seen;
}

bool isFinite(const colour::LinearRgb& colour) {
    return std::isfinite(colour.r) && std::isfinite(colour.g) && std::isfinite(colour.b);
}

// The tone pressed on, and as much to both sides as the hand goes away from it.
mask::ShapePtr withTones(const mask::LuminosityRange& start, const colour::LinearRgb& colour, double awayPx) {
    mask::LuminosityRangeValues values = start.values();
    const double tone = std::clamp(colour::labFromLinear(colour).l, 0.0, 100.0), half = 4 + tonesPerScreenPx * awayPx;
    const double low = std::max(0.0, tone - half), high = std::min(100.0, tone + half);
    values.tones.points = {std::max(0.0, low - fadeTones), low, high, std::min(100.0, high + fadeTones)};
    return std::make_shared<mask::LuminosityRange>(values);
}

mask::ShapePtr withPick(const mask::ColourRange& start, base::Point place, const colour::LinearRgb& colour) {
    mask::ColourRangeValues values = start.values();
    if (values.byHue) {
        const colour::EncodedRgb encoded = colour::encodedFromLinear(colour);
        const double hue = mask::hslHueDeg(encoded.r, encoded.g, encoded.b);
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

void RangeTool::press(const PointerEvent& event) {
    const auto colours = selected<mask::ColourRange>();
    if (!colours && !selected<mask::LuminosityRange>()) return;
    if (colours && event.modifiers & Qt::ControlModifier) {
        removeNearestPick(event.place);
        return;
    }
    if (colours && !colours->values().byHue && colours->values().picks.size() >= mask::mostPicks) {
        session_.say(QObject::tr("A colour range takes %1 picks: take some away with Ctrl and a click, or add another range.")
                         .arg(mask::mostPicks));
        return;
    }
    gesture_ = session_.begin({.stepName = colours ? QObject::tr("pick colour") : QObject::tr("set tones on photo")});
    start_ = session_.part() ? session_.part()->shape : nullptr;
    tone_.reset();
    released_ = false;
    pressed_ = last_ = event;
    if (gesture_.isRunning()) read(askAt(event));
}

void RangeTool::removeNearestPick(base::Point place) {
    const auto nearer = [place](const mask::ColourPick& a, const mask::ColourPick& b) {
        const base::Point da = a.place - place, db = b.place - place;
        return da.x * da.x + da.y * da.y < db.x * db.x + db.y * db.y;
    };
    session_.edit(QObject::tr("take pick away"), [&](const document::Document& d) {
        return document::withPart(d, session_.selectedCorrection(), session_.selectedPart(), [&](mask::Part& part) {
            const auto range = std::dynamic_pointer_cast<const mask::ColourRange>(part.shape);
            if (!range || range->values().picks.empty()) return;
            mask::ColourRangeValues values = range->values();
            values.picks.erase(std::min_element(values.picks.begin(), values.picks.end(), nearer));
            part.shape = std::make_shared<mask::ColourRange>(values);
        });
    });
}

RangeTool::Ask RangeTool::askAt(const PointerEvent& event) const {
    Ask ask{gesture_.target(),
            dynamic_cast<const mask::ColourRange*>(start_.get()) ? QObject::tr("pick colour")
                                                                 : QObject::tr("set tones on photo"),
            start_, pressed_.place, clickRadiusPx, 0};
    ask.awayPx = std::hypot(event.screen.x() - pressed_.screen.x(), event.screen.y() - pressed_.screen.y());
    if (ask.awayPx > areaAfterPx && dynamic_cast<const mask::ColourRange*>(start_.get())) {
        const base::Point way = event.place - pressed_.place;
        ask.middle = (pressed_.place + event.place) * 0.5;
        ask.radiusPx = std::min(static_cast<int>(std::max(std::abs(way.x), std::abs(way.y)) / 2), mostRadiusPx);
    }
    return ask;
}

void RangeTool::read(const Ask& ask) {
    render::Comparison comparison;
    const mask::Seen seen = seenBy(ask.start);
    comparison.allOff = seen == mask::Seen::photo;
    comparison.stopBefore = seen == mask::Seen::arriving ? ask.target.correction : 0;
    reader_.request(
        [renderer = session_.sharedRenderer(), base = gesture_.base(), comparison, ask] {
            return task::colourAt(*renderer, render::Sequence(base, comparison), ask.middle, ask.radiusPx);
        },
        [this, ask, opening = session_.opening()](const std::optional<colour::LinearRgb>& colour) {
            if (session_.opening() == opening) take(ask, colour);
        });
}

// The answer: shown, or where the hand has let go meanwhile, a step.
void RangeTool::take(const Ask& ask, const std::optional<colour::LinearRgb>& colour) {
    if (!colour || !isFinite(*colour)) {
        if (reader_.isIdle()) gesture_.giveUp();
        return;
    }
    Ask now = ask;
    mask::ShapePtr shape;
    if (const auto* tones = dynamic_cast<const mask::LuminosityRange*>(ask.start.get())) {
        tone_ = colour;
        now = gesture_.isRunning() ? askAt(last_) : ask;
        shape = withTones(*tones, *colour, now.awayPx);
    } else {
        shape = withPick(static_cast<const mask::ColourRange&>(*ask.start), ask.middle, *colour);
    }
    if (gesture_.isRunning()) {
        gesture_.preview(withShape(shape));
        if (released_ && reader_.isIdle()) gesture_.commit();
    } else if (released_) {
        // Something else has begun since the hand let go: what it asked for is a step of its own.
        session_.edit(ask.stepName, [&](const document::Document& d) {
            return document::withPart(d, ask.target.correction, ask.target.part,
                                      [&](mask::Part& part) { part.shape = shape; });
        });
    }
}

void RangeTool::move(const PointerEvent& event) {
    if (!gesture_.isRunning()) return;
    last_ = event;
    if (const auto* tones = dynamic_cast<const mask::LuminosityRange*>(start_.get())) {
        if (tone_) gesture_.preview(withShape(withTones(*tones, *tone_, askAt(event).awayPx)));
    } else {
        read(askAt(event));
    }
}

void RangeTool::release(const PointerEvent&) {
    released_ = true;
    if (reader_.isIdle()) gesture_.commit();
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
        painter.setPen(QPen(QColor(0, 0, 0, 170), 3));
        painter.drawEllipse(viewport.toScreen(pick.place), 6, 6);
        painter.setPen(QPen(thread, 1.5));
        painter.drawEllipse(viewport.toScreen(pick.place), 6, 6);
    }
    if (isActive() &&
        std::hypot(last_.screen.x() - pressed_.screen.x(), last_.screen.y() - pressed_.screen.y()) > areaAfterPx) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(thread, 1.2, Qt::DashLine));
        painter.drawRect(QRectF(pressed_.screen, last_.screen).normalized());
    }
}

}  // namespace dimhem::ui
