#include "ui/control/noise_curve.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "ui/control/theme.h"

namespace dimhem::ui {

NoiseCurve::NoiseCurve(QWidget* parent) : QWidget(parent) {
    setFixedHeight(sizeHint().height());
    setToolTip(tr("The noise that was measured, from dark tones to bright ones: luminance full, colour dashed"));
    setAccessibleName(tr("Measured noise by tone"));
}

void NoiseCurve::setNoise(const QList<double>& luminance, const QList<double>& colour) {
    luminance_ = luminance;
    colour_ = colour;
    update();
}

void NoiseCurve::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), QColor(theme::field));
    if (luminance_.isEmpty()) return;
    double most = 1;
    for (const QList<double>* line : {&luminance_, &colour_}) {
        for (const double sigma : *line) most = std::max(most, sigma);
    }
    most = std::ceil(most);
    const QRectF inside = QRectF(rect()).adjusted(16, 6, -6, -6);
    const auto draw = [&](const QList<double>& sigmas, Qt::PenStyle style) {
        QPolygonF line;
        for (qsizetype i = 0; i < sigmas.size(); ++i) {
            const double across = (static_cast<double>(i) + 0.5) / static_cast<double>(sigmas.size());
            line.append(
                {inside.left() + across * inside.width(), inside.bottom() - sigmas[i] / most * inside.height()});
        }
        painter.setPen(QPen(QColor(theme::text), 1.4, style));
        painter.drawPolyline(line);
    };
    draw(luminance_, Qt::SolidLine);
    draw(colour_, Qt::DashLine);
    painter.setPen(QColor(theme::quiet));
    QFont small = font();
    small.setPixelSize(10);
    painter.setFont(small);
    painter.drawText(QRectF(rect()).adjusted(5, 2, -5, -2), Qt::AlignLeft | Qt::AlignTop,
                     QString::number(most, 'f', 0));
}

}  // namespace dimhem::ui
