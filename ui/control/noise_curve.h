// The noise that was measured, by tone: luminance as a full line, colour as a dashed one.
#pragma once

#include <QList>
#include <QWidget>

namespace dimhem::ui {

class NoiseCurve final : public QWidget {
    Q_OBJECT

public:
    explicit NoiseCurve(QWidget* parent = nullptr);
    // In levels of 255, from the darkest tone to the brightest; empty: nothing was measured.
    void setNoise(const QList<double>& luminance, const QList<double>& colour);
    QSize sizeHint() const override { return {200, 56}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QList<double> luminance_, colour_;
};

}  // namespace dimhem::ui
