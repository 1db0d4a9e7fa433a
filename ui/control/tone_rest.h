// Where the pointer rests on an axis of tones: after a moment that tone is told, until the pointer goes on elsewhere,
// presses or leaves. Work on the control itself is not in the way.
#pragma once

#include <QObject>
#include <QTimer>
#include <QWidget>
#include <functional>
#include <optional>

namespace dimhem::ui {

class ToneRest final : public QObject {
    Q_OBJECT

public:
    // `toneAt`: 0..1 at a place of the control; none: no tone there.
    ToneRest(QWidget* control, std::function<std::optional<double>(QPointF)> toneAt);

Q_SIGNALS:
    void rests(double from, double to);  // about the tone, 0..1
    void goes();

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    void pointAt(std::optional<double> tone);

    std::function<std::optional<double>(QPointF)> toneAt_;
    QTimer wait_;
    std::optional<double> tone_;
    bool told_ = false;
};

}  // namespace dimhem::ui
