// The line between result and before where both are shown: it can be dragged, turned to any angle and swapped.
//
// It stands on the view, not on the photo, so that the photo can be moved under it.
#pragma once

#include <QPainter>
#include <QPainterPath>

namespace dimhem::ui {

class SplitLine {
public:
    // The part of the view on which the other side is shown.
    QPainterPath otherSide(QSize view) const;
    void paint(QPainter& painter, QSize view, const QString& result, const QString& other) const;

    // What can be taken hold of at a place.
    enum class Hold { nothing, moves, turns };
    Hold holdAt(QPointF at, QSize view) const;
    bool press(QPointF at, QSize view);  // false: nothing there
    void move(QPointF at, QSize view);   // while it is held
    bool isHeld() const { return hold_ != Hold::nothing; }
    void release() { hold_ = Hold::nothing; }

    void turnBy(double degrees) { angleDeg_ += degrees; }
    void swap() { swapped_ = !swapped_; }
    void reset() { *this = SplitLine(); }
    double angleDeg() const { return angleDeg_; }

private:
    QPointF middle(QSize view) const;
    QPointF along() const;  // of length 1
    QPointF turningGrip(QSize view) const;

    QPointF at_{0.5, 0.5};  // of the view, as parts of its sides
    double angleDeg_ = 90;  // of the line; 90: upright, the other side on its left
    bool swapped_ = false;
    Hold hold_ = Hold::nothing;
};

}  // namespace dimhem::ui
