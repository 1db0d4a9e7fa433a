#include "ui/control/curve_field.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "ui/control/number_fields.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double curveSidePx = 7;
constexpr double reachPx = 10;
constexpr double apart = 1;          // % between neighbouring points
constexpr double outOfFieldPx = 24;  // a point dragged this far out is removed

}  // namespace

CurveField::CurveField(const QString& name, std::size_t mostPoints, QWidget* parent)
    : QWidget(parent), most_(mostPoints) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(name);
    setToolTip(tr("%1: tone in from left to right, tone out upwards.\nPress to add a point, drag it out to remove it. "
                  "Arrow keys move the point in focus, Insert adds one after it, Tab goes to the next point, and on "
                  "from the last.")
                   .arg(name));
    setFixedHeight(theme::scaled(190));
    pause_.setSingleShot(true);
    pause_.setInterval(600);
    connect(&pause_, &QTimer::timeout, this, &CurveField::finished);
}

QRectF CurveField::ground() const {
    return QRectF(rect()).adjusted(curveSidePx, curveSidePx, -curveSidePx, -curveSidePx);
}

QPointF CurveField::toScreen(double in, double out) const {
    const QRectF g = ground();
    return {g.left() + in / 100 * g.width(), g.bottom() - out / 100 * g.height()};
}

QPointF CurveField::toTones(QPointF screen) const {
    const QRectF g = ground();
    return {(screen.x() - g.left()) / g.width() * 100, (g.bottom() - screen.y()) / g.height() * 100};
}

void CurveField::setPoints(const adjust::Table& points) {
    points_ = points;
    point_ = std::clamp(point_, 0, count() - 1);
    update();
}

void CurveField::setHistogram(const QList<double>& parts) {
    histogram_ = parts;
    update();
}

void CurveField::setMark(std::optional<double> tone) {
    if (tone == mark_) return;
    mark_ = tone;
    update();
}

void CurveField::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF g = ground();
    painter.fillRect(g, QColor(theme::field));
    if (!histogram_.isEmpty()) {
        const double top = *std::max_element(histogram_.begin(), histogram_.end());
        QPainterPath bars(g.bottomLeft());
        for (int i = 0; i < histogram_.size(); ++i) {
            const double x = (i + 0.5) / static_cast<double>(histogram_.size()) * 100;
            bars.lineTo(toScreen(x, top > 0 ? std::sqrt(histogram_[i] / top) * 92 : 0));
        }
        bars.lineTo(g.bottomRight());
        painter.fillPath(bars, QColor(0x3d, 0x3d, 0x3d));
    }
    painter.setPen(QPen(QColor(theme::line), 1));
    for (const int quarter : {25, 50, 75}) {
        painter.drawLine(toScreen(quarter, 0), toScreen(quarter, 100));
        painter.drawLine(toScreen(0, quarter), toScreen(100, quarter));
    }
    painter.setPen(QPen(QColor(theme::edge), 1, Qt::DashLine));
    painter.drawLine(toScreen(0, 0), toScreen(100, 100));
    paintCurve(painter);
}

void CurveField::paintCurve(QPainter& painter) const {
    const adjust::MonotoneSpline spline = adjust::splineOf(points_);
    const auto out = [&](double in) { return std::clamp(spline.at(in / 100) * 100, 0.0, 100.0); };
    QPolygonF line;
    for (double in = 0; in <= 100; in += 0.5) line << toScreen(in, out(in));
    painter.setPen(QPen(QColor(theme::bright), 1.6));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(line);
    if (mark_) {
        painter.setPen(QPen(QColor(theme::text), 1, Qt::DotLine));
        painter.drawLine(toScreen(*mark_, 0), toScreen(*mark_, out(*mark_)));
        painter.drawLine(toScreen(0, out(*mark_)), toScreen(*mark_, out(*mark_)));
    }
    for (int i = 0; i < count(); ++i) {
        const auto at = static_cast<std::size_t>(2 * i);
        const bool focused = hasFocus() && i == point_;
        painter.setPen(QPen(QColor(focused ? theme::bright : theme::edge), focused ? 2 : 1.4));
        painter.setBrush(QColor(focused ? theme::field : theme::bright));
        const QPointF p = toScreen(points_[at], points_[at + 1]);
        painter.drawRect(QRectF(p.x() - 3.5, p.y() - 3.5, 7, 7));
    }
}

int CurveField::pointNear(QPointF screen) const {
    int best = -1;
    double nearest = reachPx;
    for (int i = 0; i < count(); ++i) {
        const auto at = static_cast<std::size_t>(2 * i);
        const QPointF way = toScreen(points_[at], points_[at + 1]) - screen;
        const double d = std::hypot(way.x(), way.y());
        if (d >= nearest) continue;
        best = i;
        nearest = d;
    }
    return best;
}

void CurveField::movePoint(int point, double in, double out) {
    const auto at = static_cast<std::size_t>(2 * point);
    const double least = point > 0 ? points_[at - 2] + apart : 0;
    const double most = point + 1 < count() ? points_[at + 2] - apart : 100;
    points_[at] = std::clamp(in, least, std::max(least, most));
    points_[at + 1] = std::clamp(out, 0.0, 100.0);
    update();
    Q_EMIT changed(points_);
}

void CurveField::removePoint(int point) {
    if (point <= 0 || point + 1 >= count()) return;
    const auto at = points_.begin() + 2 * point;
    points_.erase(at, at + 2);
    point_ = std::min(point_, count() - 1);
    update();
    Q_EMIT changed(points_);
}

adjust::Table CurveField::bentAt(const adjust::Table& points, double tone, double by, std::size_t mostPoints) {
    constexpr double same = 4;  // nearer points are taken instead of a new one
    adjust::Table out = points;
    std::size_t nearest = 0;
    for (std::size_t i = 0; i < out.size(); i += 2) {
        if (std::abs(out[i] - tone) < std::abs(out[nearest] - tone)) nearest = i;
    }
    if (std::abs(out[nearest] - tone) > same && out.size() / 2 < mostPoints) {
        const double now = adjust::splineOf(points).at(tone / 100) * 100;
        nearest = 0;
        while (nearest < out.size() && out[nearest] < tone) nearest += 2;
        out.insert(out.begin() + static_cast<std::ptrdiff_t>(nearest), {tone, std::clamp(now, 0.0, 100.0)});
    }
    out[nearest + 1] = std::clamp(out[nearest + 1] + by, 0.0, 100.0);
    return out;
}

std::optional<SpokenValue> CurveField::spokenValue() const {
    return SpokenValue{points_[static_cast<std::size_t>(2 * point_ + 1)], 0, 100, 1};
}

void CurveField::setSpokenValue(double value) {
    movePoint(point_, points_[static_cast<std::size_t>(2 * point_)], value);
    Q_EMIT finished();
}

// On the curve as it is: nothing changes until the point is moved.
void CurveField::addPointAfter(int point) {
    const int from = std::min(point, count() - 2);
    const auto at = static_cast<std::size_t>(2 * from);
    const double tone = (points_[at] + points_[at + 2]) / 2;
    if (static_cast<std::size_t>(count()) >= most_ || points_[at + 2] - points_[at] < 2 * apart) return;
    const double now = adjust::splineOf(points_).at(tone / 100) * 100;
    points_.insert(points_.begin() + 2 * (from + 1), {tone, std::clamp(now, 0.0, 100.0)});
    point_ = from + 1;
    update();
    Q_EMIT changed(points_);
    Q_EMIT finished();
}

void CurveField::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const int found = pointNear(event->position());
    const QPointF tones = toTones(event->position());
    dragging_ = true;
    if (found >= 0) {
        point_ = found;
        update();
        return;
    }
    const bool room = static_cast<std::size_t>(count()) < most_;
    int before = 0;
    while (before < count() && points_[static_cast<std::size_t>(2 * before)] < tones.x()) ++before;
    const auto xOf = [&](int i) { return points_[static_cast<std::size_t>(2 * i)]; };
    const bool crowded =
        (before > 0 && tones.x() - xOf(before - 1) < apart) || (before < count() && xOf(before) - tones.x() < apart);
    if (!room || crowded || tones.x() < 0 || tones.x() > 100) {
        dragging_ = false;
        return;
    }
    points_.insert(points_.begin() + 2 * before, {tones.x(), std::clamp(tones.y(), 0.0, 100.0)});
    point_ = before;
    update();
    Q_EMIT changed(points_);
}

void CurveField::mouseMoveEvent(QMouseEvent* event) {
    if (!dragging_) return;
    const bool inner = point_ > 0 && point_ + 1 < count();
    const QRectF far = QRectF(rect()).adjusted(-outOfFieldPx, -outOfFieldPx, outOfFieldPx, outOfFieldPx);
    if (inner && !far.contains(event->position())) {
        removePoint(point_);
        dragging_ = false;
        Q_EMIT finished();
        return;
    }
    const QPointF tones = toTones(event->position());
    movePoint(point_, tones.x(), tones.y());
}

void CurveField::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !dragging_) return;
    dragging_ = false;
    Q_EMIT finished();
}

void CurveField::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && pointNear(event->position()) >= 0) {
        dragging_ = false;
        point_ = pointNear(event->position());
        askForNumbers(event->globalPosition().toPoint());
    } else {
        mousePressEvent(event);
    }
}

void CurveField::askForNumbers(QPoint global) {
    const auto at = static_cast<std::size_t>(2 * point_);
    const QList<Number> numbers{{tr("Tone in"), "%", points_[at], 0, 100, 1},
                                {tr("Tone out"), "%", points_[at + 1], 0, 100, 1}};
    NumberFields::open(tr("Point of the curve"), numbers, global, this, [this, point = point_](const auto& values) {
        if (point >= count()) return;  // it has gone meanwhile
        movePoint(point, values[0], values[1]);
        Q_EMIT finished();
    });
}

std::optional<double> CurveField::toneAt(QPointF place) const {
    const double tone = toTones(place).x() / 100;
    return ground().contains(place) ? std::optional(tone) : std::nullopt;
}

bool CurveField::event(QEvent* event) {
    // The window's own Delete removes a correction; here it is the point's.
    if (event->type() == QEvent::ShortcutOverride) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Delete || key == Qt::Key_Backspace) {
            event->accept();
            return true;
        }
    }
    return QWidget::event(event);
}

void CurveField::keyPressEvent(QKeyEvent* event) {
    const double size = event->modifiers() & Qt::ShiftModifier ? 10 : event->modifiers() & Qt::AltModifier ? 0.1 : 1;
    const auto at = static_cast<std::size_t>(2 * point_);
    double in = points_[at], out = points_[at + 1];
    switch (event->key()) {
        case Qt::Key_Right: in += size; break;
        case Qt::Key_Left: in -= size; break;
        case Qt::Key_Up: out += size; break;
        case Qt::Key_Down: out -= size; break;
        case Qt::Key_Insert: addPointAfter(point_); return;
        case Qt::Key_Return:
        case Qt::Key_Enter: askForNumbers(mapToGlobal(toScreen(in, out).toPoint())); return;
        case Qt::Key_Delete:
        case Qt::Key_Backspace:
            removePoint(point_);
            Q_EMIT finished();
            return;
        default: QWidget::keyPressEvent(event); return;
    }
    movePoint(point_, in, out);
    pause_.start();
}

bool CurveField::focusNextPrevChild(bool next) {
    const int wanted = point_ + (next ? 1 : -1);
    if (!hasFocus() || wanted < 0 || wanted >= count()) return QWidget::focusNextPrevChild(next);
    point_ = wanted;
    update();
    return true;
}

}  // namespace dimhem::ui
