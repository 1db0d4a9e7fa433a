#include "ui/canvas/probe_marks.h"

#include <cmath>

#include "core/document/edits.h"
#include "ui/canvas/grip.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr double probeReachPx = 9, ringPx = 6;

}  // namespace

std::optional<std::size_t> ProbeMarks::at(QPointF screen, const Viewport& viewport) const {
    if (!session_.isOpen()) return std::nullopt;
    const auto& probes = session_.document()->probes;
    for (std::size_t i = probes.size(); i-- > 0;) {
        const QPointF way = viewport.toScreen(document::middleOf(probes[i])) - screen;
        if (std::hypot(way.x(), way.y()) <= probeReachPx) return i;
    }
    return std::nullopt;
}

bool ProbeMarks::press(const PointerEvent& event, const Viewport& viewport) {
    const auto found = at(event.screen, viewport);
    if (!found) return false;
    held_ = *found;
    from_ = session_.document()->probes[held_];
    pressed_ = event.place;
    gesture_ = session_.begin({.stepName = QObject::tr("move probe")});
    return true;
}

void ProbeMarks::move(const PointerEvent& event) {
    if (!gesture_.isRunning()) return;
    gesture_.preview(document::withProbe(*gesture_.base(), held_, document::moved(from_, event.place - pressed_)));
}

void ProbeMarks::paint(QPainter& painter, const Viewport& viewport) const {
    if (!session_.isOpen()) return;
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const auto& probes = session_.document()->probes;
    for (std::size_t i = 0; i < probes.size(); ++i) {
        const document::Probe& probe = probes[i];
        const QPointF at = viewport.toScreen(document::middleOf(probe));
        if (probe.area) {
            const base::Rect& a = *probe.area;
            const QRectF box(viewport.toScreen({double(a.x0), double(a.y0)}),
                             viewport.toScreen({double(a.x1), double(a.y1)}));
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(QColor(0, 0, 0, 150), 3));
            painter.drawRect(box);
            painter.setPen(QPen(QColor(theme::bright), 1));
            painter.drawRect(box);
        }
        painter.setBrush(Qt::NoBrush);
        paintCircle(painter, at, ringPx, QPen(QColor(theme::bright), probe.neutral ? 2.5 : 1.2));
        const QString number = QString::number(i + 1);
        const QRectF label(at + QPointF(ringPx + 3, -painter.fontMetrics().height() / 2.0),
                           QSizeF(painter.fontMetrics().horizontalAdvance(number) + 6, painter.fontMetrics().height()));
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(0, 0, 0, 150));
        painter.drawRoundedRect(label, 3, 3);
        painter.setPen(QColor(theme::bright));
        painter.drawText(label, Qt::AlignCenter, number);
    }
    painter.restore();
}

}  // namespace dimhem::ui
