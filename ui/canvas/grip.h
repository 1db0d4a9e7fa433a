// The knobs by which shapes on the photo are taken hold of, and how far the pointer is from them. Seen on any ground:
// the thread colour with a dark rim, or the other way round where the knob is open.
#pragma once

#include <QColor>
#include <QLineF>
#include <QPainter>

namespace dimhem::ui {

// On screen: how near the pointer counts as on a knob, and on a line; and how far apart the points of a drag are kept.
constexpr double reachPx = 8, onLinePx = 6, stepPx = 3;

void paintGrip(QPainter& painter, QPointF at, const QColor& colour, bool filled, double radiusPx = 4.5);

// A ring round a place, with a dark rim; `pen` is of the ring itself.
void paintCircle(QPainter& painter, QPointF at, double radiusPx, const QPen& pen);

// For a grip that is dragged along a direction of the screen.
Qt::CursorShape resizeCursor(QPointF along);

// On screen.
double distance(QPointF a, QPointF b);
double distanceToLine(QPointF p, const QLineF& line);  // between its ends

}  // namespace dimhem::ui
