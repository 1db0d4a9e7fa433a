#include "ui/control/range_strip.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "ui/control/number_fields.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double stripSidePx = 8;
constexpr double gripPx = 12;
constexpr double reachPx = 9;

}  // namespace

RangeStrip::RangeStrip(Scale scale, const QString& name, QWidget* parent) : QWidget(parent), scale_(scale) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(name);
    setToolTip(tr("%1: full between the inner points, fading to the outer ones.\nDrag a point, or between them to move "
                  "all. Arrow keys "
                  "move the point in focus, Tab goes to the next point, and on from the last.")
                   .arg(name));
    setFixedHeight(theme::scaled(58));
    pause_.setSingleShot(true);
    pause_.setInterval(600);
    connect(&pause_, &QTimer::timeout, this, &RangeStrip::finished);
}

QRectF RangeStrip::strip() const {
    return QRectF(rect()).adjusted(stripSidePx, 2, -stripSidePx, -gripPx - 4);
}

double RangeStrip::low() const {
    return scale_ == Scale::hue ? -60 : 0;
}

double RangeStrip::high() const {
    return scale_ == Scale::hue ? 300 : 100;
}

double RangeStrip::shown(double value) const {
    if (scale_ == Scale::tone) return value;
    double turned = std::fmod(value - low(), 360.0);
    if (turned < 0) turned += 360;
    return low() + turned;
}

double RangeStrip::xOf(double value) const {
    return strip().left() + (shown(value) - low()) / (high() - low()) * strip().width();
}

double RangeStrip::valueAt(double x) const {
    return low() + (x - strip().left()) / strip().width() * (high() - low());
}

void RangeStrip::setRange(const mask::Range& range) {
    range_ = range;
    update();
}

void RangeStrip::setHistogram(const QList<double>& parts) {
    histogram_ = parts;
    update();
}

void RangeStrip::setMark(std::optional<double> value) {
    mark_ = value;
    update();
}

void RangeStrip::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF area = strip();
    QLinearGradient ground(area.topLeft(), area.topRight());
    for (int i = 0; i <= 24; ++i) {
        const double t = i / 24.0;
        const double hue = std::fmod(low() + t * 360 + 360, 360.0) / 360;
        ground.setColorAt(t,
                          scale_ == Scale::hue
                              ? QColor::fromHslF(static_cast<float>(std::min(hue, 0.9999)), 0.45f, 0.5f)
                              : QColor::fromRgbF(static_cast<float>(t), static_cast<float>(t), static_cast<float>(t)));
    }
    painter.fillRect(area, QColor(theme::field));
    painter.fillRect(QRectF(area.left(), area.bottom() - 8, area.width(), 8), ground);
    if (!histogram_.isEmpty()) {
        const double top = *std::max_element(histogram_.begin(), histogram_.end());
        QPainterPath bars(QPointF(area.left(), area.bottom() - 8));
        for (int i = 0; i < histogram_.size(); ++i) {
            const double x = area.left() + (i + 0.5) / static_cast<double>(histogram_.size()) * area.width();
            bars.lineTo(x, area.bottom() - 8 - (top > 0 ? std::sqrt(histogram_[i] / top) : 0) * (area.height() - 10));
        }
        bars.lineTo(area.right(), area.bottom() - 8);
        painter.fillPath(bars, QColor(0x58, 0x58, 0x58));
    }
    // The weight over the whole strip, as a curve.
    QPainterPath curve;
    for (int px = 0; px <= static_cast<int>(area.width()); ++px) {
        const double value = valueAt(area.left() + px);
        const double w = scale_ == Scale::hue ? mask::weightOnCircle(range_, value) : mask::weightOn(range_, value);
        const QPointF at(area.left() + px, area.bottom() - 9 - w * (area.height() - 12));
        px == 0 ? curve.moveTo(at) : curve.lineTo(at);
    }
    painter.setPen(QPen(QColor(theme::bright), 1.4));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(curve);
    if (mark_) {
        painter.setPen(QPen(QColor(theme::text), 1));
        painter.drawLine(QPointF(xOf(*mark_), area.top()), QPointF(xOf(*mark_), area.bottom()));
    }
    for (int i = 0; i < 4; ++i) {
        const double x = xOf(range_.points[static_cast<std::size_t>(i)]);
        const bool inner = i == 1 || i == 2;
        QPolygonF grip{
            {x, area.bottom() + 1}, {x - 4.5, area.bottom() + gripPx - 2}, {x + 4.5, area.bottom() + gripPx - 2}};
        painter.setPen(
            QPen(QColor(hasFocus() && i == point_ ? theme::bright : theme::edge), hasFocus() && i == point_ ? 2 : 1));
        painter.setBrush(QColor(inner ? theme::bright : theme::field));
        painter.drawPolygon(grip);
    }
}

int RangeStrip::nearestPoint(double x) const {
    int best = -1;
    double distance = reachPx;
    for (int i = 0; i < 4; ++i) {
        const double d = std::abs(xOf(range_.points[static_cast<std::size_t>(i)]) - x);
        // Of points that lie together, the one that can move the way the hand comes from.
        const bool nearer =
            d < distance || (d == distance && i >= 2 && x > xOf(range_.points[static_cast<std::size_t>(i)]));
        if (!nearer) continue;
        best = i;
        distance = d;
    }
    return best;
}

void RangeStrip::movePoint(int point, double to) {
    auto& p = range_.points;
    const auto i = static_cast<std::size_t>(point);
    if (scale_ == Scale::hue) {
        // The turn of the wanted value that lies nearest to the point.
        to += 360 * std::round((p[i] - to) / 360);
    }
    double least = i > 0 ? p[i - 1] : (scale_ == Scale::hue ? p[3] - 360 : low());
    double most = i < 3 ? p[i + 1] : (scale_ == Scale::hue ? p[0] + 360 : high());
    p[i] = std::clamp(to, least, most);
    if (scale_ == Scale::hue && std::abs(p[0]) > 360) {
        const double turn = p[0] > 0 ? -360 : 360;
        for (double& v : p) v += turn;
    }
    update();
    Q_EMIT changed(range_);
}

void RangeStrip::moveAll(double by) {
    auto& p = range_.points;
    if (scale_ == Scale::tone) by = std::clamp(by, low() - p[0], high() - p[3]);
    for (double& v : p) v += by;
    if (scale_ == Scale::hue && std::abs(p[0]) > 360) {
        const double turn = p[0] > 0 ? -360 : 360;
        for (double& v : p) v += turn;
    }
    update();
    Q_EMIT changed(range_);
}

std::optional<SpokenValue> RangeStrip::spokenValue() const {
    return SpokenValue{range_.points[static_cast<std::size_t>(point_)], low(), high(), 1};
}

void RangeStrip::setSpokenValue(double value) {
    movePoint(point_, value);
    Q_EMIT finished();
}

void RangeStrip::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const int point = nearestPoint(event->position().x());
    dragged_ = point >= 0 ? point : 4;
    if (point >= 0) point_ = point;
    dragFrom_ = valueAt(event->position().x());
    dragStart_ = range_;
    update();
}

void RangeStrip::mouseMoveEvent(QMouseEvent* event) {
    if (dragged_ < 0) return;
    const double value = valueAt(event->position().x());
    if (dragged_ == 4) {
        range_ = dragStart_;
        moveAll(value - dragFrom_);
    } else {
        movePoint(dragged_, value);
    }
}

void RangeStrip::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || dragged_ < 0) return;
    dragged_ = -1;
    Q_EMIT finished();
}

void RangeStrip::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    dragged_ = -1;
    askForNumbers(event->globalPosition().toPoint());
}

void RangeStrip::askForNumbers(QPoint global) {
    const QString unit = scale_ == Scale::hue ? tr("°") : QString();
    const QString labels[] = {tr("None before"), tr("Full from"), tr("Full to"), tr("None after")};
    QList<Number> numbers;
    for (std::size_t i = 0; i < 4; ++i) {
        const bool isHue = scale_ == Scale::hue;
        const double value = isHue ? std::fmod(range_.points[i] + 720, 360) : range_.points[i];
        numbers.append({labels[i], unit, value, 0, isHue ? 360 : high(), 1});
    }
    NumberFields::open(accessibleName(), numbers, global, this, [this, numbers](const QList<double>& values) {
        const auto isSame = [](const Number& number, double value) { return std::abs(number.value - value) < 0.06; };
        if (!std::ranges::equal(numbers, values, isSame)) take(values);
    });
}

// Each after the one before it: of tones by order, of hues round the circle.
void RangeStrip::take(const QList<double>& values) {
    mask::Range wanted;
    std::copy(values.begin(), values.end(), wanted.points.begin());
    auto& p = wanted.points;
    if (scale_ == Scale::tone) {
        std::ranges::sort(p);
    } else {
        for (std::size_t i = 1; i < 4; ++i) {
            while (p[i] < p[i - 1]) p[i] += 360;
            p[i] = std::min(p[i], p[0] + 360);  // once round and no further
        }
        if (p[3] > 360) {
            for (double& v : p) v -= 360;
        }
    }
    range_ = wanted;
    update();
    Q_EMIT changed(range_);
    Q_EMIT finished();
}

std::optional<double> RangeStrip::toneAt(QPointF place) const {
    if (scale_ != Scale::tone || !strip().contains(place)) return std::nullopt;
    return (valueAt(place.x()) - low()) / (high() - low());
}

void RangeStrip::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        askForNumbers(
            mapToGlobal(QPoint(static_cast<int>(xOf(range_.points[static_cast<std::size_t>(point_)])), height())));
        return;
    }
    const double size = event->modifiers() & Qt::ShiftModifier ? 10 : 1;
    double by = 0;
    if (event->key() == Qt::Key_Right || event->key() == Qt::Key_Up) by = size;
    if (event->key() == Qt::Key_Left || event->key() == Qt::Key_Down) by = -size;
    if (by == 0) {
        QWidget::keyPressEvent(event);
        return;
    }
    movePoint(point_, range_.points[static_cast<std::size_t>(point_)] + by);
    pause_.start();
}

bool RangeStrip::focusNextPrevChild(bool next) {
    const int wanted = point_ + (next ? 1 : -1);
    if (!hasFocus() || wanted < 0 || wanted > 3) return QWidget::focusNextPrevChild(next);
    point_ = wanted;
    update();
    return true;
}

}  // namespace dimhem::ui
