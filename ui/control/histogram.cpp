#include "ui/control/histogram.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int heightPx = 56, endPx = 5;
constexpr double halfBand = 0.02;  // of the tones that shine, as a part of all
constexpr double shownPct = 0.05;  // lost at an end

}  // namespace

Histogram::Histogram(const QString& name, QWidget* parent) : QWidget(parent) {
    setObjectName("histogram");
    setAccessibleName(name);
    setFixedHeight(heightPx);
    setFocusPolicy(Qt::StrongFocus);
    setProperty("takesSpace", true);
    setToolTip(tr(
        "Tones from dark to light: filled before, the line after. Press a part of it to see those pixels shine in the "
        "photo; the ends stand for what is blocked and clipped."));
}

void Histogram::setTones(std::optional<Tones> tones) {
    tones_ = std::move(tones);
    if (tones_) {
        setAccessibleDescription(tr("Blocked %1 percent, clipped %2 percent")
                                     .arg(tones_->lowPct, 0, 'f', 1)
                                     .arg(tones_->highPct, 0, 'f', 1));
    }
    update();
}

std::optional<SpokenValue> Histogram::spokenValue() const {
    return SpokenValue{100 * at_, 0, 100, 100 * halfBand};
}

void Histogram::shineAt(double part) {
    held_ = true;
    at_ = std::clamp(part, 0.0, 1.0);
    Q_EMIT shines(at_ - halfBand, at_ + halfBand);
    update();
}

void Histogram::letGo() {
    if (!std::exchange(held_, false)) return;
    Q_EMIT shinesNoMore();
    update();
}

void Histogram::setMark(std::optional<double> tone) {
    mark_ = tone;
    update();
}

void Histogram::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && tones_) shineAt(event->position().x() / width());
}

void Histogram::mouseMoveEvent(QMouseEvent* event) {
    if (held_) shineAt(event->position().x() / width());
}

void Histogram::mouseReleaseEvent(QMouseEvent*) {
    letGo();
}

void Histogram::keyPressEvent(QKeyEvent* event) {
    const double step = event->modifiers() & Qt::ShiftModifier ? 0.1 : halfBand;
    const bool moves = event->key() == Qt::Key_Left || event->key() == Qt::Key_Right;
    if (moves) {
        at_ = std::clamp(at_ + (event->key() == Qt::Key_Left ? -step : step), 0.0, 1.0);
        if (held_) shineAt(at_);
        sayChanged(this);
        update();
    } else if (event->key() == Qt::Key_Space && tones_) {
        if (!event->isAutoRepeat()) shineAt(at_);
    } else {
        QWidget::keyPressEvent(event);
    }
}

void Histogram::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        letGo();
    } else {
        QWidget::keyReleaseEvent(event);
    }
}

void Histogram::focusOutEvent(QFocusEvent* event) {
    letGo();
    QWidget::focusOutEvent(event);
}

void Histogram::hideEvent(QHideEvent*) {
    letGo();
}

void Histogram::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF ground(rect());
    painter.fillRect(ground, QColor(theme::field));
    if (!tones_) return;
    const auto& was = tones_->before;
    const auto& is = tones_->after;
    const double top = std::max(*std::max_element(was.begin(), was.end()), *std::max_element(is.begin(), is.end()));
    const auto outline = [&](const std::vector<double>& bins) {
        QPainterPath path(ground.bottomLeft());
        for (std::size_t i = 0; i < bins.size(); ++i) {
            const double x = (static_cast<double>(i) + 0.5) / static_cast<double>(bins.size()) * ground.width();
            path.lineTo(x, ground.bottom() - (top > 0 ? std::sqrt(bins[i] / top) : 0) * (ground.height() - 4));
        }
        path.lineTo(ground.bottomRight());
        return path;
    };
    painter.fillPath(outline(was), QColor(0x4c, 0x4c, 0x4c));
    painter.setPen(QPen(QColor(theme::bright), 1.2));
    painter.drawPath(outline(is));
    // What is lost at the ends: as high as its share, and in figures where there is some.
    const auto end = [&](double x, double pct, Qt::Alignment side) {
        if (pct < shownPct) return;
        const double high = std::min(1.0, std::sqrt(pct / 100)) * (ground.height() - 4);
        painter.fillRect(QRectF(x, ground.bottom() - high, endPx, high), QColor(theme::bright));
        painter.setPen(QColor(theme::bright));
        painter.drawText(ground.adjusted(endPx + 3, 1, -endPx - 3, 0), side | Qt::AlignTop,
                         tr("%1 %").arg(pct, 0, 'f', pct < 9.95 ? 1 : 0));
    };
    end(0, tones_->lowPct, Qt::AlignLeft);
    end(ground.right() - endPx, tones_->highPct, Qt::AlignRight);
    if (mark_) {
        painter.setPen(QPen(QColor(theme::text), 1));
        painter.drawLine(QPointF(*mark_ * width(), 0), QPointF(*mark_ * width(), height()));
    }
    if (held_ || hasFocus()) {
        painter.setPen(QPen(QColor(theme::bright), 1, held_ ? Qt::SolidLine : Qt::DotLine));
        for (const double edge : {at_ - halfBand, at_ + halfBand})
            painter.drawLine(QPointF(edge * width(), 0), QPointF(edge * width(), height()));
    }
}

}  // namespace dimhem::ui
