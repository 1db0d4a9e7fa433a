// A slider for one parameter: label, track, number field; all of it from the parameter's description.
//
// Track: drag; up/down (also left/right) by one step, Shift ten steps, Alt a tenth; wheel while focused; double click
// to the neutral value, which a tick marks; a digit begins typing. Field: typing, Esc gives it up. A drag or a run of
// keys is one gesture: changed() follows it, finished() ends it.
#pragma once

#include <QTimer>
#include <QWidget>

#include "core/base/param.h"

class QLabel;

namespace dimhem::ui {

class EntryField;
class SliderTrack;

class ValueSlider final : public QWidget {
    Q_OBJECT

public:
    explicit ValueSlider(const base::ParamSpec& spec, QWidget* parent = nullptr);

    const base::ParamSpec& spec() const { return spec_; }
    double value() const { return value_; }
    void setValue(double value);  // without a signal
    void makeCompact();           // the track alone, for bars
    SliderTrack* track() const { return track_; }
    EntryField* field() const { return field_; }

Q_SIGNALS:
    void changed(double value);  // by the person, in the middle of a gesture
    void finished();             // the gesture is over

private:
    friend class SliderTrack;
    void change(double value);  // within a gesture
    void stepBy(double steps);  // by keys or wheel: ends the gesture by itself after a pause
    void acceptField();
    void showValue();

    const base::ParamSpec& spec_;
    double value_;
    QLabel* label_;
    SliderTrack* track_;
    EntryField* field_;
    QTimer pause_;
};

// The track alone; its value is the slider's.
class SliderTrack final : public QWidget {
    Q_OBJECT

public:
    explicit SliderTrack(ValueSlider* slider);
    QSize sizeHint() const override { return {80, 20}; }

    // Where a value stands, 0 at the left end to 1 at the right, by the parameter's scale; and back.
    static double placeOf(const base::ParamSpec& spec, double value);
    static double valueAt(const base::ParamSpec& spec, double place);

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;

private:
    double xOf(double value) const;
    void dragTo(double x);

    ValueSlider* slider_;
    double grabOffset_ = 0;
    bool dragging_ = false;
};

// A toggle described as a parameter: label and switch.
class ValueSwitch final : public QWidget {
    Q_OBJECT

public:
    explicit ValueSwitch(const base::ParamSpec& spec, QWidget* parent = nullptr);
    void setValue(bool on);  // without a signal

Q_SIGNALS:
    void changed(bool on);

private:
    class Switch* switch_;
};

}  // namespace dimhem::ui
