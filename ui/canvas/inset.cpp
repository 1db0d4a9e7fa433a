#include "ui/canvas/inset.h"

#include <QMouseEvent>
#include <QPainter>

#include "ui/control/theme.h"
#include "ui/session/key_table.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

namespace {

constexpr int longSidePx = 172;
constexpr int framePx = 7;  // wide enough to take hold of

}  // namespace

Inset::Inset(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Whole photo"));
    setToolTip(withKey(
        tr("The whole photo as it looks now. Press or drag to look elsewhere; drag its frame to another corner."),
        "inset"));
    setCursor(Qt::PointingHandCursor);
    setMouseTracking(true);
    hide();
}

QRectF Inset::pictureRect() const {
    return QRectF(rect()).adjusted(framePx, framePx, -framePx, -framePx);
}

void Inset::showView(const QImage& overview, const Viewport& viewport) {
    overview_ = overview;
    photo_ = viewport.photo();
    const double scale = static_cast<double>(longSidePx) / std::max({photo_.width, photo_.height, 1});
    resize(static_cast<int>(photo_.width * scale) + 2 * framePx, static_cast<int>(photo_.height * scale) + 2 * framePx);
    const QRectF seen = viewport.visiblePhoto();
    visible_ = {seen.x() / photo_.width, seen.y() / photo_.height, seen.width() / photo_.width,
                seen.height() / photo_.height};
    setVisible(viewport.isCloserThanFit() && !overview.isNull() && showsInset());
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

void Inset::placeIn(const QRect& area) {
    area_ = area;
    const Corner corner = insetCorner();
    const bool left = corner == Corner::topLeft || corner == Corner::bottomLeft,
               top = corner == Corner::topLeft || corner == Corner::topRight;
    move(left ? area.left() : area.right() + 1 - width(), top ? area.top() : area.bottom() + 1 - height());
}

void Inset::lookAt(QPointF position) {
    const QRectF picture = pictureRect();
    const double x = (position.x() - picture.x()) / picture.width(),
                 y = (position.y() - picture.y()) / picture.height();
    Q_EMIT wanted({x * photo_.width, y * photo_.height});
}

void Inset::mousePressEvent(QMouseEvent* event) {
    moves_ = !pictureRect().contains(event->position());
    if (!moves_) lookAt(event->position());
}

void Inset::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() == Qt::NoButton) {
        setCursor(pictureRect().contains(event->position()) ? Qt::PointingHandCursor : Qt::SizeAllCursor);
    } else if (!moves_) {
        lookAt(event->position());
    } else {
        // Into the corner the pointer is nearest to.
        const QPoint at = mapToParent(event->pos());
        const bool left = at.x() < area_.center().x(), top = at.y() < area_.center().y();
        setInsetCorner(top ? (left ? Corner::topLeft : Corner::topRight)
                           : (left ? Corner::bottomLeft : Corner::bottomRight));
        placeIn(area_);
    }
}

}  // namespace dimhem::ui
