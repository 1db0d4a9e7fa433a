#include "ui/canvas/lost_legend.h"

#include <QObject>
#include <algorithm>

#include "core/render/shine.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

QString wordsOf(check::Fault fault) {
    switch (fault) {
        case check::Fault::none: break;
        case check::Fault::clipped: return QObject::tr("newly clipped");
        case check::Fault::blocked: return QObject::tr("newly blocked");
        case check::Fault::outside: return QObject::tr("newly too strong for the profile");
    }
    return {};
}

}  // namespace

void paintLostLegend(QPainter& painter, const QString& by) {
    constexpr int offPx = 12, paddingPx = 8, swatchPx = 10;
    const QFontMetrics metrics = painter.fontMetrics();
    const int lineHigh = metrics.height() + 3;
    int wide = metrics.horizontalAdvance(by);
    for (const render::LostColour& lost : render::lostColours)
        wide = std::max(wide, metrics.horizontalAdvance(wordsOf(lost.fault)) + swatchPx + 6);
    const int lines = 1 + static_cast<int>(std::size(render::lostColours));
    painter.save();
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0, 0, 0, 170));
    painter.drawRoundedRect(offPx, offPx, wide + 2 * paddingPx, lines * lineHigh + 2 * paddingPx, 4, 4);
    int y = offPx + paddingPx;
    const int x = offPx + paddingPx;
    for (const render::LostColour& lost : render::lostColours) {
        painter.fillRect(x, y + (lineHigh - swatchPx) / 2, swatchPx, swatchPx, QColor(lost.red, lost.green, lost.blue));
        painter.setPen(QColor(theme::bright));
        painter.drawText(x + swatchPx + 6, y + metrics.ascent() + 1, wordsOf(lost.fault));
        y += lineHigh;
    }
    painter.setPen(QColor(theme::quiet));
    painter.drawText(x, y + metrics.ascent() + 1, by);
    painter.restore();
}

}  // namespace dimhem::ui
