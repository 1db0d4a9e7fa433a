#include "ui/control/cast_dial.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/colour/ciede2000.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int dialPx = 78;
constexpr double rings[] = {2, 5, 10, 20};  // CIEDE2000
constexpr double leastReach = 8;            // chroma at the rim

double chromaOf(const colour::Lab& lab) {
    return std::hypot(lab.a, lab.b);
}

double hueOf(const colour::Lab& lab) {
    const double deg = std::atan2(lab.b, lab.a) * 180 / std::numbers::pi;
    return deg < 0 ? deg + 360 : deg;
}

}  // namespace

double chromaAt(double lightness, double hueDeg, double difference) {
    const double turn = hueDeg * std::numbers::pi / 180;
    double low = 0, high = 200;
    for (int i = 0; i < 40; ++i) {
        const double middle = (low + high) / 2;
        const double found =
            colour::ciede2000({lightness, 0, 0}, {lightness, middle * std::cos(turn), middle * std::sin(turn)});
        (found < difference ? low : high) = middle;
    }
    return low;
}

QString castDirection(const colour::Lab& lab) {
    constexpr double none = 0.5;
    if (chromaOf(lab) < none) return {};
    const double hue = hueOf(lab);
    if (hue < 25 || hue >= 350) return QObject::tr("towards magenta-red");
    if (hue < 50) return QObject::tr("towards red");
    if (hue < 72) return QObject::tr("towards orange");
    if (hue < 110) return QObject::tr("towards yellow");
    if (hue < 185) return QObject::tr("towards green");
    if (hue < 235) return QObject::tr("towards cyan");
    if (hue < 300) return QObject::tr("towards blue");
    return QObject::tr("towards magenta");
}

CastDial::CastDial(QWidget* parent) : QWidget(parent) {
    setObjectName("cast-dial");
    setAccessibleName(tr("Cast"));
    setFixedSize(dialPx, dialPx);
    setToolTip(tr(
        "The mean colour of the masked area, before (ring) and after (dot): red to the right, yellow up, green to the "
        "left, blue down. The rings are 2, 5, 10 and 20 from neutral (CIEDE2000). A cross marks what a probe known "
        "to be neutral has."));
}

void CastDial::setCast(const std::optional<colour::Lab>& before, const std::optional<colour::Lab>& after) {
    before_ = before;
    after_ = after;
    findRings();
    update();
}

void CastDial::setNeutral(const std::optional<colour::Lab>& known) {
    neutral_ = known;
    update();
}

double CastDial::reach() const {
    double most = leastReach;
    for (const auto& lab : {before_, after_, neutral_}) {
        if (lab) most = std::max(most, chromaOf(*lab) * 1.15);
    }
    return most;
}

// They hardly change with the tone, and take a while to find.
void CastDial::findRings() {
    constexpr double sameTone = 4;  // of L*
    if (!after_ || std::abs(after_->l - ringsOf_) < sameTone) return;
    ringsOf_ = after_->l;
    rings_.clear();
    for (const double ring : rings) {
        QPolygonF line;
        for (int deg = 0; deg <= 360; deg += 15) {
            const double turn = deg * std::numbers::pi / 180, chroma = chromaAt(ringsOf_, deg, ring);
            line << QPointF(chroma * std::cos(turn), chroma * std::sin(turn));
        }
        rings_ << line;
    }
}

void CastDial::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double radius = dialPx / 2.0 - 2;
    const QPointF middle(dialPx / 2.0, dialPx / 2.0);
    painter.setPen(QColor(theme::line));
    painter.setBrush(QColor(theme::field));
    painter.drawEllipse(middle, radius, radius);
    painter.drawLine(middle - QPointF(radius, 0), middle + QPointF(radius, 0));
    painter.drawLine(middle - QPointF(0, radius), middle + QPointF(0, radius));
    if (!after_) return;
    const double scale = radius / reach();
    const auto place = [&](double a, double b) { return middle + scale * QPointF(a, -b); };
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QColor(theme::edge));
    for (const QPolygonF& ring : rings_) {
        if (ring.front().x() > reach()) break;
        QPolygonF line;
        for (const QPointF& at : ring) line << place(at.x(), at.y());
        painter.drawPolyline(line);
    }
    if (neutral_) {
        const QPointF at = place(neutral_->a, neutral_->b);
        painter.setPen(QPen(QColor(theme::text), 1.2));
        painter.drawLine(at - QPointF(4, 4), at + QPointF(4, 4));
        painter.drawLine(at - QPointF(4, -4), at + QPointF(4, -4));
    }
    const QPointF to = place(after_->a, after_->b);
    painter.setPen(QPen(QColor(theme::quiet), 1.2));
    if (before_) {
        const QPointF from = place(before_->a, before_->b);
        painter.drawLine(from, to);
        painter.setBrush(QColor(theme::field));
        painter.setPen(QPen(QColor(theme::bright), 1.4));
        painter.drawEllipse(from, 3.5, 3.5);
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(theme::bright));
    painter.drawEllipse(to, 3.5, 3.5);
}

}  // namespace dimhem::ui
