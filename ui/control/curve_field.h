// A curve bent through points, with a histogram behind it.
//
// Press on the curve's ground to add a point, drag points, drag one out of the field (or Delete) to remove it; the
// first and the last stay. A double click on a point, or Return on the one in focus, asks for its numbers. Keys: Tab
// steps through the points, arrows move the one in focus (Shift ten steps, Alt a tenth). One drag is one gesture:
// changed() follows it, finished() ends it.
#pragma once

#include <QTimer>
#include <QWidget>
#include <optional>

#include "core/adjust/tone_curve.h"
#include "ui/control/spoken.h"

namespace dimhem::ui {

class CurveField final : public QWidget, public Spoken {
    Q_OBJECT

public:
    CurveField(const QString& name, std::size_t mostPoints, QWidget* parent);

    // What the point in focus makes of its tone.
    QAccessible::Role spokenRole() const override { return QAccessible::Slider; }
    std::optional<SpokenValue> spokenValue() const override;
    void setSpokenValue(double value) override;

    const adjust::Table& points() const { return points_; }
    void setPoints(const adjust::Table& points);        // without a signal; rows of (in, out), 0..100
    void setHistogram(const QList<double>& parts);      // of the tones that come in, any number of bins, any unit
    void setMark(std::optional<double> tone);           // the tone under the pointer, 0..100
    std::optional<double> toneAt(QPointF place) const;  // 0..1; none beside the ground
    QSize sizeHint() const override { return {220, 190}; }

    // The curve bent at a tone by so much, with a point there: as by hand. Gives the points.
    static adjust::Table bentAt(const adjust::Table& points, double tone, double by, std::size_t mostPoints);

Q_SIGNALS:
    void changed(const dimhem::adjust::Table& points);
    void finished();

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool focusNextPrevChild(bool next) override;

private:
    QRectF ground() const;
    QPointF toScreen(double in, double out) const;
    QPointF toTones(QPointF screen) const;
    int count() const { return static_cast<int>(points_.size() / 2); }
    int pointNear(QPointF screen) const;  // -1: none
    void movePoint(int point, double in, double out);
    void removePoint(int point);
    void askForNumbers(QPoint global);  // of the point in focus
    void addPointAfter(int point);      // half way to the next
    void paintCurve(QPainter& painter) const;

    std::size_t most_;
    adjust::Table points_ = {0, 0, 100, 100};
    QList<double> histogram_;
    std::optional<double> mark_;
    int point_ = 0;  // in focus
    bool dragging_ = false;
    QTimer pause_;
};

}  // namespace dimhem::ui
