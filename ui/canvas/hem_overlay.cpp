#include "ui/canvas/hem_overlay.h"

#include <algorithm>
#include <cstdlib>

namespace dimhem::ui {

namespace {

// Orange and blue are told apart by every kind of colour vision (Okabe and Ito, 2008; values from memory).
constexpr QRgb spillColour = qRgb(230, 159, 0), shortColour = qRgb(0, 114, 178);
constexpr int leastShown = 4;  // of 100
constexpr QRgb findingColour = qRgb(255, 255, 255);

QRgb faded(QRgb colour, int alpha) {
    return qPremultiply(qRgba(qRed(colour), qGreen(colour), qBlue(colour), alpha));
}

}  // namespace

void HemOverlay::refresh() {
    map_ = QImage();
    const task::HemReport* report = hem_.report();
    if (!hem_.showsMap() || !report || !report->measured) return;
    level_ = report->level;
    const base::Size size = report->difference.size();
    map_ = QImage(size.width, size.height, QImage::Format_ARGB32_Premultiplied);
    for (int y = 0; y < size.height; ++y) {
        auto* to = reinterpret_cast<QRgb*>(map_.scanLine(y));
        const auto from = report->difference.row(y);
        for (int x = 0; x < size.width; ++x) {
            const int d = from[static_cast<std::size_t>(x)], much = std::abs(d);
            to[x] = much < leastShown ? 0 : faded(d > 0 ? spillColour : shortColour, std::min(255, 70 + much * 2));
        }
    }
}

void HemOverlay::paint(QPainter& painter, const Viewport& viewport) const {
    painter.save();
    painter.setClipRect(viewport.photoOnScreen());
    if (hem_.showsMap() && !map_.isNull()) {
        const double scale = 1 << level_;
        painter.setRenderHint(QPainter::SmoothPixmapTransform, viewport.zoom() * scale < 2);
        painter.drawImage(
            QRectF(viewport.toScreen({0, 0}), viewport.toScreen({map_.width() * scale, map_.height() * scale})), map_);
    }
    if (const check::Finding* finding = hem_.finding()) {
        painter.setRenderHint(QPainter::Antialiasing);
        QPolygonF line;
        for (const base::Point& p : finding->outline) line << viewport.toScreen(p);
        if (!line.isEmpty()) line << line.front();
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(0, 0, 0, 190), 4.5));
        painter.drawPolyline(line);
        painter.setPen(QPen(QColor(findingColour), 2));
        painter.drawPolyline(line);
    }
    painter.restore();
}

}  // namespace dimhem::ui
