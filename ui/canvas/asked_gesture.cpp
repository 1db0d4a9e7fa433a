#include "ui/canvas/asked_gesture.h"

#include <QCoreApplication>
#include <cmath>

#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

PhotoDrag AskedGesture::dragTo(const PointerEvent& event) const {
    constexpr double clickPx = 5;
    const QPointF way = event.screen - from_->screen;
    return {from_->place, event.place, -way.y(), std::hypot(way.x(), way.y()) > clickPx};
}

void AskedGesture::press(const PointerEvent& event) {
    from_ = event;
    if (session_.asked()->moved) session_.asked()->moved(dragTo(event));
}

void AskedGesture::move(const PointerEvent& event) {
    if (from_ && session_.asked() && session_.asked()->moved) session_.asked()->moved(dragTo(event));
}

void AskedGesture::release(const PointerEvent& event) {
    const PhotoDrag drag = dragTo(event);
    from_.reset();
    if (!session_.asked()) return;
    const PhotoGesture gesture = *session_.asked();  // answering may ask for something else
    if (!gesture.stays) session_.stopAsking();
    gesture.done(drag);
}

bool AskedGesture::cancel() {
    if (!session_.asked()) return false;
    if (from_ && session_.asked()->givenUp) session_.asked()->givenUp();
    from_.reset();
    session_.stopAsking();
    return true;
}

void AskedGesture::paint(QPainter& painter, const PointerEvent* pointer, int viewWidth) const {
    if (!session_.asked()) return;
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    if (session_.asked()->marksArea && from_ && pointer) {
        const QRectF area = QRectF(from_->screen, pointer->screen).normalized();
        painter.setPen(QPen(QColor(0, 0, 0, 150), 3));
        painter.drawRect(area);
        painter.setPen(stitchPen(
            session_.correction() ? threadColour(session_.correction()->threadColour) : QColor(theme::bright), 1.6));
        painter.drawRect(area);
    }
    const QString words = QObject::tr("%1  ·  Esc ends it").arg(session_.asked()->hint);
    const QRectF text = QRectF(painter.fontMetrics().boundingRect(words));
    const QRectF box((viewWidth - text.width()) / 2 - 12, 10, text.width() + 24, text.height() + 10);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x1f, 0x1f, 0x1f, 225));
    painter.drawRoundedRect(box, 4, 4);
    painter.setPen(QColor(theme::text));
    painter.drawText(box, Qt::AlignCenter, words);
    painter.restore();
}

}  // namespace dimhem::ui
