// A whole number in a field of a dialog. The wheel never changes it: it may only be passing.
#pragma once

#include <QSpinBox>
#include <QWheelEvent>

namespace dimhem::ui {

class SpinBox final : public QSpinBox {
public:
    explicit SpinBox(QWidget* parent) : QSpinBox(parent) { setFocusPolicy(Qt::StrongFocus); }

protected:
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }
};

}  // namespace dimhem::ui
