// What the colours of the view of losses mean, in a corner of the photo.
#pragma once

#include <QPainter>
#include <QString>

namespace dimhem::ui {

// `by`: whose losses they are.
void paintLostLegend(QPainter& painter, const QString& by);

}  // namespace dimhem::ui
