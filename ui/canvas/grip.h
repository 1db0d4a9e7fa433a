// The knobs by which shapes on the photo are taken hold of. Seen on any ground: the thread colour with a dark rim, or
// the other way round where the knob is open.
#pragma once

#include <QColor>
#include <QPainter>

namespace dimhem::ui {

void paintGrip(QPainter& painter, QPointF at, const QColor& colour, bool filled, double radiusPx = 4.5);

// A ring round a place, with a dark rim; `pen` is of the ring itself.
void paintCircle(QPainter& painter, QPointF at, double radiusPx, const QPen& pen);

}  // namespace dimhem::ui
