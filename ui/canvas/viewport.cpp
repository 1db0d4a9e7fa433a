#include "ui/canvas/viewport.h"

#include <algorithm>
#include <cmath>

#include "core/image/tiles.h"

namespace dimhem::ui {

namespace {

constexpr double marginPx = 12;  // round the photo at fit

}  // namespace

void Viewport::setPhoto(base::Size photo) {
    photo_ = photo;
    fit();
}

void Viewport::setWidget(QSize widget, double devicePixelRatio) {
    widget_ = widget;
    devicePixelRatio_ = devicePixelRatio;
    if (fit_) fit();
}

double Viewport::fitZoom() const {
    if (photo_.empty()) return 1;
    const double w = std::max(16.0, widget_.width() - 2 * marginPx),
                 h = std::max(16.0, widget_.height() - 2 * marginPx);
    return std::min({w / photo_.width, h / photo_.height, maxZoom});
}

void Viewport::fit() {
    zoom_ = fitZoom();
    centre_ = {photo_.width / 2.0, photo_.height / 2.0};
    fit_ = true;
}

void Viewport::zoomTo(double zoom, QPointF fixedScreen) {
    const base::Point fixed = toPhoto(fixedScreen);
    zoom_ = std::clamp(zoom, std::min(fitZoom() / 4, 1.0), maxZoom);
    fit_ = false;
    const base::Point moved = toPhoto(fixedScreen);
    centre_ = centre_ + (fixed - moved);
    keepInReach();
}

void Viewport::pan(QPointF byScreen) {
    centre_ = centre_ - base::Point{byScreen.x() / zoom_, byScreen.y() / zoom_};
    fit_ = false;
    keepInReach();
}

void Viewport::centreOn(base::Point place) {
    centre_ = place;
    fit_ = false;
    keepInReach();
}

void Viewport::keepInReach() {
    centre_.x = std::clamp(centre_.x, -1.0 * photo_.width, 2.0 * photo_.width);
    centre_.y = std::clamp(centre_.y, -1.0 * photo_.height, 2.0 * photo_.height);
}

QPointF Viewport::toScreen(base::Point place) const {
    return {(place.x - centre_.x) * zoom_ + widget_.width() / 2.0,
            (place.y - centre_.y) * zoom_ + widget_.height() / 2.0};
}

base::Point Viewport::toPhoto(QPointF screen) const {
    return {(screen.x() - widget_.width() / 2.0) / zoom_ + centre_.x,
            (screen.y() - widget_.height() / 2.0) / zoom_ + centre_.y};
}

QRectF Viewport::photoOnScreen() const {
    return {toScreen({0, 0}), toScreen({static_cast<double>(photo_.width), static_cast<double>(photo_.height)})};
}

QRectF Viewport::visiblePhoto() const {
    const base::Point topLeft = toPhoto({0, 0}), bottomRight = toPhoto(QPointF(widget_.width(), widget_.height()));
    return QRectF(QPointF(topLeft.x, topLeft.y), QPointF(bottomRight.x, bottomRight.y))
        .intersected(QRectF(0, 0, photo_.width, photo_.height));
}

int Viewport::level() const {
    const double perPhotoPixel = zoom_ * devicePixelRatio_;
    const int level = perPhotoPixel >= 1 ? 0 : static_cast<int>(std::floor(-std::log2(perPhotoPixel) + 1e-9));
    return std::clamp(level, 0, image::maxLevel);
}

}  // namespace dimhem::ui
