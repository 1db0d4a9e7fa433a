// Four draggable points on a strip: full between the inner two, fading to the outer two. For hues the strip is the
// circle unrolled; for tones the scale of L*, with a histogram behind it.
//
// Drag a point, or between the points to move all; a double click, or Return, asks for the numbers. Keys: Tab steps
// through the points, arrows move the one in focus (Shift ten steps). One drag is one gesture: changed() follows it,
// finished() ends it.
#pragma once

#include <QTimer>
#include <QWidget>

#include "core/mask/range.h"
#include "ui/control/spoken.h"

namespace dimhem::ui {

class RangeStrip final : public QWidget, public Spoken {
    Q_OBJECT

public:
    enum class Scale { hue, tone };
    RangeStrip(Scale scale, const QString& name, QWidget* parent);

    // Of the point in focus.
    QAccessible::Role spokenRole() const override { return QAccessible::Slider; }
    std::optional<SpokenValue> spokenValue() const override;
    void setSpokenValue(double value) override;

    const mask::Range& range() const { return range_; }
    void setRange(const mask::Range& range);            // without a signal
    void setHistogram(const QList<double>& parts);      // of tones, any number of bins, any unit
    void setMark(std::optional<double> value);          // the value under the pointer
    std::optional<double> toneAt(QPointF place) const;  // 0..1, on the scale of tones; none beside the strip
    QSize sizeHint() const override { return {200, 58}; }

Q_SIGNALS:
    void changed(const mask::Range& range);
    void finished();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool focusNextPrevChild(bool next) override;

private:
    QRectF strip() const;
    double low() const;
    double high() const;
    double xOf(double value) const;
    double valueAt(double x) const;
    int nearestPoint(double x) const;
    double shown(double value) const;  // hues are shown within one turn
    void movePoint(int point, double to);
    void moveAll(double by);
    void askForNumbers(QPoint global);
    void take(const QList<double>& values);  // of the four points, as typed

    Scale scale_;
    mask::Range range_;
    QList<double> histogram_;
    std::optional<double> mark_;
    int point_ = 0;     // in focus
    int dragged_ = -1;  // 0..3 a point, 4 all, -1 nothing
    double dragFrom_ = 0;
    mask::Range dragStart_;
    QTimer pause_;
};

}  // namespace dimhem::ui
