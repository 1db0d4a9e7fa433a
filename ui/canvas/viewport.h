// Which part of the photo the canvas shows, and how large.
//
// Screen positions are the widget's, in logical pixels. Zoom is screen pixels per pixel of the photo. The pasteboard
// round the photo is large: any place up to one photo's length outside can be brought to the middle.
#pragma once

#include <QPointF>
#include <QRectF>
#include <QSize>

#include "core/base/rect.h"

namespace dimhem::ui {

class Viewport {
public:
    static constexpr double maxZoom = 32;

    void setPhoto(base::Size photo);
    void setWidget(QSize widget, double devicePixelRatio);

    base::Size photo() const { return photo_; }
    double zoom() const { return zoom_; }
    double fitZoom() const;
    bool isFit() const { return fit_; }
    bool isCloserThanFit() const { return zoom_ > fitZoom() * 1.001; }

    void fit();
    void zoomTo(double zoom, QPointF fixedScreen);  // the place under `fixedScreen` stays there
    void pan(QPointF byScreen);
    void centreOn(base::Point place);
    base::Point centre() const { return centre_; }

    QPointF toScreen(base::Point place) const;
    base::Point toPhoto(QPointF screen) const;
    QRectF photoOnScreen() const;
    QRectF visiblePhoto() const;  // the part of the photo in sight, in its pixels

    // The level to render: the coarsest that has at least one pixel for each of the screen's.
    int level() const;

private:
    void keepInReach();

    base::Size photo_;
    QSize widget_;
    double devicePixelRatio_ = 1;
    double zoom_ = 1;
    base::Point centre_;
    bool fit_ = true;
};

}  // namespace dimhem::ui
