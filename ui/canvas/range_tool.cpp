#include "ui/canvas/range_tool.h"

#include <algorithm>
#include <cmath>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/document/edits.h"
#include "core/task/probe.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int clickRadiusPx = 2;   // a click reads 5 x 5 pixels
constexpr double areaAfterPx = 5;  // on screen: a longer drag averages an area
constexpr double fadeTones = 12;   // L* over which a range set on the photo fades
constexpr double tonesPerScreenPx = 0.15;

}  // namespace

std::shared_ptr<const mask::ColourRange> RangeTool::colourRange() const {
    const mask::Part* part = session_.part();
    return part ? std::dynamic_pointer_cast<const mask::ColourRange>(part->shape) : nullptr;
}

std::shared_ptr<const mask::LuminosityRange> RangeTool::luminosityRange() const {
    const mask::Part* part = session_.part();
    return part ? std::dynamic_pointer_cast<const mask::LuminosityRange>(part->shape) : nullptr;
}

std::optional<colour::LinearRgb> RangeTool::colourAt(base::Point place, int radiusPx, mask::Seen seen) const {
    render::Comparison comparison;
    comparison.allOff = seen == mask::Seen::photo;
    comparison.stopBefore = seen == mask::Seen::arriving ? session_.selectedCorrection() : 0;
    return task::colourAt(session_.renderer(), render::Sequence(before_, comparison), place, radiusPx);
}

void RangeTool::press(const PointerEvent& event) {
    before_ = session_.document();
    pressed_ = last_ = event;
    active_ = true;
    if (const auto range = luminosityRange()) {
        start_ = range;
        const auto colour = colourAt(event.place, clickRadiusPx, range->values().seen);
        active_ = colour.has_value();
        if (colour) tone_ = std::clamp(colour::labFromLinear(*colour).l, 0.0, 100.0);
        if (active_) showTones(event);
    } else if (const auto colours = colourRange()) {
        start_ = colours;
        showColours(event);
    } else {
        active_ = false;
    }
}

void RangeTool::move(const PointerEvent& event) {
    if (!active_) return;
    last_ = event;
    luminosityRange() ? showTones(event) : showColours(event);
}

void RangeTool::release(const PointerEvent&) {
    if (!std::exchange(active_, false)) return;
    session_.commitPreview(std::dynamic_pointer_cast<const mask::LuminosityRange>(start_)
                               ? QObject::tr("set tones on photo")
                               : QObject::tr("pick colour"));
}

void RangeTool::cancel() {
    if (!std::exchange(active_, false)) return;
    session_.dropPreview();
}

void RangeTool::showTones(const PointerEvent& event) {
    mask::LuminosityRangeValues values = std::static_pointer_cast<const mask::LuminosityRange>(start_)->values();
    // The tone pressed on, and as much to both sides as the hand goes away from it.
    const double half = 4 + tonesPerScreenPx * std::hypot(event.screen.x() - pressed_.screen.x(),
                                                          event.screen.y() - pressed_.screen.y());
    const double low = std::max(0.0, tone_ - half), high = std::min(100.0, tone_ + half);
    values.tones.points = {std::max(0.0, low - fadeTones), low, high, std::min(100.0, high + fadeTones)};
    show(std::make_shared<mask::LuminosityRange>(values));
}

void RangeTool::showColours(const PointerEvent& event) {
    mask::ColourRangeValues values = std::static_pointer_cast<const mask::ColourRange>(start_)->values();
    if (event.modifiers & Qt::ControlModifier) {
        const auto nearest =
            std::min_element(values.picks.begin(), values.picks.end(), [&](const auto& a, const auto& b) {
                const base::Point da = a.place - event.place, db = b.place - event.place;
                return da.x * da.x + da.y * da.y < db.x * db.x + db.y * db.y;
            });
        if (nearest != values.picks.end()) values.picks.erase(nearest);
        show(std::make_shared<mask::ColourRange>(values));
        return;
    }
    const bool area =
        std::hypot(event.screen.x() - pressed_.screen.x(), event.screen.y() - pressed_.screen.y()) > areaAfterPx;
    const base::Point middle = area ? (pressed_.place + event.place) * 0.5 : pressed_.place;
    const int radius =
        area ? static_cast<int>(
                   std::max(std::abs(event.place.x - pressed_.place.x), std::abs(event.place.y - pressed_.place.y)) / 2)
             : clickRadiusPx;
    const auto colour = colourAt(middle, std::min(radius, 400), values.seen);
    if (!colour) return;
    const colour::EncodedRgb encoded = colour::encodedFromLinear(*colour);
    if (values.byHue) {
        const double hue = mask::hslHueDeg(encoded.r, encoded.g, encoded.b);
        const auto& p = values.hues.points;
        const double shift = std::remainder(hue - (p[1] + p[2]) / 2, 360);
        for (double& v : values.hues.points) v += shift;
        if (std::abs(values.hues.points[0]) > 360) {
            const double turn = values.hues.points[0] > 0 ? -360 : 360;
            for (double& v : values.hues.points) v += turn;
        }
    }
    values.picks.push_back({middle, colour::labFromLinear(*colour)});
    if (values.byHue && values.picks.size() > 1) values.picks.erase(values.picks.begin(), values.picks.end() - 1);
    show(std::make_shared<mask::ColourRange>(values));
}

void RangeTool::show(mask::ShapePtr shape) {
    session_.preview(document::withPart(*before_, session_.selectedCorrection(), session_.selectedPart(),
                                        [&](mask::Part& part) { part.shape = std::move(shape); }));
}

void RangeTool::paint(QPainter& painter, const Viewport& viewport, const PointerEvent*) const {
    const auto range = colourRange();
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
    if (active_ &&
        std::hypot(last_.screen.x() - pressed_.screen.x(), last_.screen.y() - pressed_.screen.y()) > areaAfterPx) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(thread, 1.2, Qt::DashLine));
        painter.drawRect(QRectF(pressed_.screen, last_.screen).normalized());
    }
}

}  // namespace dimhem::ui
