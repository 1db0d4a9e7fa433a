#include "ui/panel/progress_line.h"

#include <QPainter>
#include <cmath>

#include "ui/control/theme.h"

namespace dimhem::ui {

ProgressLine::ProgressLine(QWidget* parent) : QWidget(parent) {
    setFixedHeight(2);
    setAccessibleName(tr("Work in progress"));
    late_.setSingleShot(true);
    late_.setInterval(150);
    connect(&late_, &QTimer::timeout, this, [this] {
        shown_ = true;
        tick_.start(40);
        update();
    });
    connect(&tick_, &QTimer::timeout, this, [this] {
        ++phase_;
        update();
    });
}

void ProgressLine::setRunning(bool running) {
    if (running) {
        if (!shown_ && !late_.isActive()) late_.start();
        return;
    }
    late_.stop();
    tick_.stop();
    shown_ = false;
    part_.reset();
    update();
}

void ProgressLine::setPart(std::optional<double> part) {
    part_ = part;
    update();
}

void ProgressLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), QColor(theme::bar));
    if (!shown_) return;
    if (part_) {
        painter.fillRect(QRectF(0, 0, width() * *part_, height()), QColor(theme::bright));
        return;
    }
    const double run = width() / 6.0;
    const double x = (width() - run) * (0.5 - 0.5 * std::cos(phase_ * 0.08));
    painter.fillRect(QRectF(x, 0, run, height()), QColor(theme::quiet));
}

}  // namespace dimhem::ui
