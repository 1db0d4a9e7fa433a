#include "ui/canvas/frame_image.h"

#include <cmath>

#include "core/image/tiles.h"

namespace dimhem::ui {

int overviewLevel(base::Size photo) {
    constexpr int leastPx = 720;  // where the photo is as long
    return image::levelOfLeastSide(photo, leastPx);
}

void FrameImage::clear() {
    *this = FrameImage();
}

QRectF FrameImage::photoRect(const QRect& levelRect) const {
    const double scale = 1 << level_;
    return {levelRect.x() * scale, levelRect.y() * scale, levelRect.width() * scale, levelRect.height() * scale};
}

void FrameImage::cover(int level, const QRect& rect, base::Size photo) {
    if (level == level_ && rect == rect_ && photo == photo_) return;
    const FrameImage old = *this;
    level_ = level;
    rect_ = rect;
    photo_ = photo;
    image_ = QImage(rect.size(), QImage::Format_RGB32);
    image_.fill(QColor(0x30, 0x30, 0x30));
    QPainter painter(&image_);
    const double scale = 1 << level;
    // Draw in coordinates of the photo: first the overview, then what was shown before.
    painter.scale(1 / scale, 1 / scale);
    painter.translate(-rect.x() * scale, -rect.y() * scale);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    if (!overview_.isNull()) painter.drawImage(QRectF(0, 0, photo.width, photo.height), overview_);
    if (!old.image_.isNull() && old.photo_ == photo) painter.drawImage(old.photoRect(old.rect_), old.image_);
}

base::Rect FrameImage::coverSeen(const Viewport& viewport) {
    const int level = viewport.level();
    const QRectF seen = viewport.visiblePhoto();
    const base::Size size = viewport.photo();
    const base::Rect photoRect{static_cast<int>(std::floor(seen.left())), static_cast<int>(std::floor(seen.top())),
                               static_cast<int>(std::ceil(seen.right())), static_cast<int>(std::ceil(seen.bottom()))};
    const base::Rect rect =
        base::intersected(image::levelRect(photoRect, level), base::rectOf(image::levelSize(size, level)));
    // Whole tiles, so that small pans stay within what is there.
    const image::TileGrid grid(image::levelSize(size, level), image::defaultTilePx);
    const base::Rect touched = grid.touched(rect);
    if (!touched.empty()) {
        const base::Rect whole =
            base::united(grid.tile(touched.x0, touched.y0), grid.tile(touched.x1 - 1, touched.y1 - 1));
        cover(level, {whole.x0, whole.y0, whole.width(), whole.height()}, size);
    }
    return rect;
}

void FrameImage::put(int level, const QRect& rect, const QImage& pixels) {
    if (level_ < 0 || level < level_) return;
    const int times = 1 << (level - level_);
    const QRect own(rect.topLeft() * times, rect.size() * times);
    if (!rect_.intersects(own)) return;
    QPainter painter(&image_);
    painter.setCompositionMode(QPainter::CompositionMode_Source);
    painter.setRenderHint(QPainter::SmoothPixmapTransform, times > 1);
    painter.drawImage(QRect(own.topLeft() - rect_.topLeft(), own.size()), pixels);
}

void FrameImage::paint(QPainter& painter, const Viewport& viewport) const {
    painter.save();
    const QRectF photo = viewport.photoOnScreen();
    painter.setClipRect(photo, Qt::IntersectClip);  // the last pixel of a level may stand out beyond the photo
    // From twice the size on, pixels are what the person wants to see.
    painter.setRenderHint(QPainter::SmoothPixmapTransform, viewport.zoom() < 2);
    if (!overview_.isNull()) painter.drawImage(photo, overview_);
    if (!image_.isNull()) {
        const QRectF part = photoRect(rect_);
        painter.drawImage(
            QRectF(viewport.toScreen({part.left(), part.top()}), viewport.toScreen({part.right(), part.bottom()})),
            image_);
    }
    painter.restore();
}

QColor FrameImage::pixelAt(base::Point place) const {
    const double scale = 1 << std::max(0, level_);
    const QPoint pixel(static_cast<int>(std::floor(place.x / scale)) - rect_.x(),
                       static_cast<int>(std::floor(place.y / scale)) - rect_.y());
    return image_.rect().contains(pixel) ? image_.pixelColor(pixel) : QColor();
}

}  // namespace dimhem::ui
