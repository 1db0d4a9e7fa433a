// The pixels the canvas shows: the tiles in sight, at one level, put together as they arrive.
//
// What is not there yet shows the overview, enlarged; what is out of date stays until its new tile comes.
#pragma once

#include <QImage>
#include <QPainter>

#include "ui/canvas/viewport.h"

namespace dimhem::ui {

// The level of an overview of a photo.
int overviewLevel(base::Size photo);

class FrameImage {
public:
    void clear();
    void setOverview(const QImage& overview) { overview_ = overview; }
    const QImage& overview() const { return overview_; }

    // Makes ready for a level and a part of it, in its pixels; keeps what is still of use.
    void cover(int level, const QRect& rect, base::Size photo);
    // The same for what a viewport has in sight; the part of its level that is to be rendered.
    base::Rect coverSeen(const Viewport& viewport);
    // Pixels of its level, or, enlarged, of a coarser one; others are not of use.
    void put(int level, const QRect& rect, const QImage& pixels);

    void paint(QPainter& painter, const Viewport& viewport) const;
    // The pixel shown at a place of the photo; invalid outside.
    QColor pixelAt(base::Point place) const;

private:
    QRectF photoRect(const QRect& levelRect) const;

    QImage overview_;
    QImage image_;
    QRect rect_;  // of the level
    int level_ = -1;
    base::Size photo_;
};

}  // namespace dimhem::ui
