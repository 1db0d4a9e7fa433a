#include "ui/control/stitch.h"

#include <QPainter>

#include "ui/control/theme.h"

namespace dimhem::ui {

QPen stitchPen(const QColor& colour, double widthPx) {
    QPen pen(colour, widthPx);
    pen.setCapStyle(Qt::RoundCap);
    pen.setDashPattern({7 / widthPx, 7 / widthPx});  // about 7 px each, whatever the width
    return pen;
}

StitchLine::StitchLine(QWidget* parent) : QWidget(parent) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void StitchLine::setColour(const QColor& colour) {
    colour_ = colour;
    update();
}

void StitchLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const double y = height() / 2.0;
    if (!colour_.isValid()) {
        painter.fillRect(QRectF(0, y - 0.5, width(), 1), QColor(theme::line));
        return;
    }
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(stitchPen(colour_));
    painter.drawLine(QPointF(3, y), QPointF(width() - 3, y));
}

}  // namespace dimhem::ui
