#include "ui/canvas/loupe.h"

#include <algorithm>
#include <cmath>

#include "ui/control/theme.h"

namespace dimhem::ui {

void Loupe::setHeld(bool held) {
    held_ = held;
    if (held) return;
    before_ = QImage();
    after_ = QImage();
}

base::Rect Loupe::wanted(base::Point place, base::Size photo, double devicePixelRatio) const {
    if (!held_) return {};
    const int side = static_cast<int>(std::lround(sidePx * devicePixelRatio));
    const auto start = [side](double middle, int length) {
        return std::clamp(static_cast<int>(std::floor(middle)) - side / 2, 0, std::max(0, length - side));
    };
    const int x = start(place.x, photo.width), y = start(place.y, photo.height);
    return base::intersected({x, y, x + side, y + side}, base::rectOf(photo));
}

void Loupe::put(const QImage& before, const QImage& after) {
    before_ = before;
    after_ = after;
}

void Loupe::paint(QPainter& painter, QPointF pointer, QSize view, const QString& beforeName,
                  const QString& afterName) const {
    if (!held_ || before_.isNull()) return;
    constexpr double gap = 2, away = 24, frame = 2;
    // Beside the pointer, where there is room for it.
    const double width = 2 * sidePx + gap, height = sidePx;
    const double x = std::clamp(pointer.x() - width / 2, 0.0, std::max(0.0, view.width() - width));
    double y = pointer.y() + away;
    if (y + height > view.height()) y = std::max(0.0, pointer.y() - away - height);
    painter.save();
    painter.fillRect(QRectF(x - frame, y - frame, width + 2 * frame, height + 2 * frame), QColor(theme::bar));
    const auto side = [&](const QImage& image, double left, const QString& name) {
        const double scale = painter.device()->devicePixelRatioF();
        painter.drawImage(QRectF(left, y, image.width() / scale, image.height() / scale), image);
        const QRectF box(left + 6, y + 6, painter.fontMetrics().horizontalAdvance(name) + 10,
                         painter.fontMetrics().height() + 4);
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(0, 0, 0, 150));
        painter.drawRoundedRect(box, 3, 3);
        painter.setPen(QColor(theme::bright));
        painter.drawText(box, Qt::AlignCenter, name);
    };
    side(before_, x, beforeName);
    side(after_, x + sidePx + gap, afterName);
    painter.restore();
}

}  // namespace dimhem::ui
