// The mask's contours over the photo: dashes at 50 %, fine dots at 10 % and 90 %. A tight pair of dotted lines is a
// hard edge, a wide one a soft edge. The stitches have the same length on screen at every zoom.
#pragma once

#include <QColor>
#include <QPainter>

#include "ui/canvas/viewport.h"
#include "ui/session/frame_thread.h"

namespace dimhem::ui {

void paintStitches(QPainter& painter, const Stitches& stitches, const QColor& thread, const Viewport& viewport);

}  // namespace dimhem::ui
