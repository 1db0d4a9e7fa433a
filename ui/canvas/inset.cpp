#include "ui/canvas/inset.h"

#include <QMouseEvent>
#include <QPainter>

#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int longSidePx = 172;
constexpr int framePx = 4;

}  // namespace

Inset::Inset(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Whole photo"));
    setToolTip(tr("The whole photo as it looks now. Press or drag to look elsewhere."));
    setCursor(Qt::PointingHandCursor);
    hide();
}

QRectF Inset::pictureRect() const {
    return QRectF(rect()).adjusted(framePx, framePx, -framePx, -framePx);
}

void Inset::show(const QImage& overview, const Viewport& viewport) {
    overview_ = overview;
    photo_ = viewport.photo();
    const double scale = static_cast<double>(longSidePx) / std::max({photo_.width, photo_.height, 1});
    resize(static_cast<int>(photo_.width * scale) + 2 * framePx, static_cast<int>(photo_.height * scale) + 2 * framePx);
    const QRectF seen = viewport.visiblePhoto();
    visible_ = {seen.x() / photo_.width, seen.y() / photo_.height, seen.width() / photo_.width,
                seen.height() / photo_.height};
    setVisible(viewport.isCloserThanFit() && !overview.isNull());
    update();
}

void Inset::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), QColor(theme::bar));
    const QRectF picture = pictureRect();
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(picture, overview_);
    const QRectF seen(picture.x() + visible_.x() * picture.width(), picture.y() + visible_.y() * picture.height(),
                      visible_.width() * picture.width(), visible_.height() * picture.height());
    painter.setPen(QPen(QColor(0, 0, 0, 150), 3));
    painter.drawRect(seen);
    painter.setPen(QPen(QColor(theme::bright), 1.2));
    painter.drawRect(seen);
}

void Inset::mousePressEvent(QMouseEvent* event) {
    const QRectF picture = pictureRect();
    const double x = (event->position().x() - picture.x()) / picture.width(),
                 y = (event->position().y() - picture.y()) / picture.height();
    Q_EMIT wanted({x * photo_.width, y * photo_.height});
}

void Inset::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) mousePressEvent(event);
}

}  // namespace dimhem::ui
