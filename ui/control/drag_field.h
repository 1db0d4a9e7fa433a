// A number in a small cell: drag it sideways, or with the focus on it arrows (Shift ten steps, Alt a tenth), typing, or
// a double click to its neutral value. A bar from the middle shows it.
//
// One drag or run of keys is one gesture: changed() follows it, finished() ends it.
#pragma once

#include <QTimer>
#include <QWidget>

#include "core/base/param.h"
#include "ui/control/spoken.h"

namespace dimhem::ui {

class EntryField;

class DragField final : public QWidget, public Spoken {
    Q_OBJECT

public:
    DragField(const base::ParamSpec& spec, QWidget* parent);

    double value() const { return value_; }
    void setValue(double value);  // without a signal
    QSize sizeHint() const override { return {42, 24}; }
    QAccessible::Role spokenRole() const override { return QAccessible::Slider; }
    std::optional<SpokenValue> spokenValue() const override {
        return SpokenValue{value_, spec_.min, spec_.max, spec_.step};
    }
    void setSpokenValue(double value) override;

Q_SIGNALS:
    void changed(double value);
    void finished();

protected:
    bool event(QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void change(double value);
    void type(const QString& first);

    const base::ParamSpec& spec_;
    double value_, dragFrom_ = 0, dragStart_ = 0;
    bool dragging_ = false;
    EntryField* typed_ = nullptr;
    QTimer pause_;
};

}  // namespace dimhem::ui
