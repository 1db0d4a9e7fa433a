#include "ui/canvas/stitch_overlay.h"

#include "ui/control/stitch.h"

namespace dimhem::ui {

void paintStitches(QPainter& painter, const Stitches& stitches, const QColor& thread, const Viewport& viewport) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setClipRect(viewport.photoOnScreen());
    const auto lines = [&](const QList<QPolygonF>& contours, const QPen& pen) {
        for (const QPolygonF& contour : contours) {
            QPolygonF line;
            for (const QPointF& p : contour) line << viewport.toScreen({p.x(), p.y()});
            if (pen.style() != Qt::CustomDashLine || pen.dashPattern().front() > 1) {
                painter.setPen(QPen(QColor(0, 0, 0, 110), pen.widthF() + 1.6));
                painter.drawPolyline(line);
            }
            painter.setPen(pen);
            painter.drawPolyline(line);
        }
    };
    QPen dots(thread, 1.9);
    dots.setCapStyle(Qt::RoundCap);
    dots.setDashPattern({0.1, 2.4});
    lines(stitches.outer, dots);
    lines(stitches.inner, dots);
    lines(stitches.half, stitchPen(thread, 1.9));
    painter.restore();
}

}  // namespace dimhem::ui
