// The whole photo, small, while the canvas is closer than fit: what is painted is judged at both sizes at once. The
// part in sight is framed; press or drag to look elsewhere, drag the frame about it to another corner.
#pragma once

#include <QImage>
#include <QWidget>

#include "ui/canvas/viewport.h"

namespace dimhem::ui {

class Inset final : public QWidget {
    Q_OBJECT

public:
    explicit Inset(QWidget* parent);
    void showView(const QImage& overview, const Viewport& viewport);
    void placeIn(const QRect& area);  // in the corner chosen

Q_SIGNALS:
    void wanted(base::Point centre);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

private:
    QRectF pictureRect() const;
    void lookAt(QPointF position);
    QImage overview_;
    QRectF visible_;  // of the photo, as parts of 1
    base::Size photo_;
    QRect area_;
    bool moves_ = false;  // the inset itself is being dragged
};

}  // namespace dimhem::ui
