// A setting in one row as wide as its panel: label at the left, number at the right, the track along the lower edge.
// All of it comes from the parameter's description.
//
// Press anywhere and drag sideways: the value follows from where it is; on the track itself it jumps to the pointer
// first. With Shift, or with the pointer well above or below the row, a drag moves a tenth as far. Up/down (also
// left/right) one step, Shift ten steps, Alt a tenth; the wheel with Ctrl; double click to the neutral value, which a
// tick marks; reached by Tab, a digit begins typing, Esc gives it up. A drag or a run of keys is one gesture: changed()
// follows it, finished() ends it.
#pragma once

#include <QTimer>
#include <QWidget>

#include "core/base/param.h"
#include "ui/control/spoken.h"

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
    SliderTrack* track() const { return track_; }
    EntryField* field() const { return field_; }

Q_SIGNALS:
    void changed(double value);  // by the person, in the middle of a gesture
    void finished();             // the gesture is over

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    friend class SliderTrack;
    void change(double value);  // within a gesture
    void stepBy(double steps);  // by keys or wheel: ends the gesture by itself after a pause
    void acceptField();
    void showValue();

    const base::ParamSpec& spec_;
    double value_;
    SliderTrack* track_;
    EntryField* field_;
    QTimer pause_;
};

// The row without its number, which lies over it; its value is the slider's.
class SliderTrack final : public QWidget, public Spoken {
    Q_OBJECT

public:
    explicit SliderTrack(ValueSlider* slider);

    // Where a value stands, 0 at the left end to 1 at the right, by the parameter's scale; and back.
    static double placeOf(const base::ParamSpec& spec, double value);
    static double valueAt(const base::ParamSpec& spec, double place);
    double xOf(double value) const;

    QAccessible::Role spokenRole() const override { return QAccessible::Slider; }
    std::optional<SpokenValue> spokenValue() const override;
    void setSpokenValue(double value) override;

protected:
    bool event(QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;

private:
    ValueSlider* slider_;
    double place_ = 0, lastX_ = 0;  // of the drag: not rounded to the parameter's steps
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

protected:
    void mouseReleaseEvent(QMouseEvent* event) override;

private:
    class Switch* switch_;
};

}  // namespace dimhem::ui
