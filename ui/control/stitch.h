// Stitches: the dashed, round-capped line that marks what belongs to a correction.
#pragma once

#include <QPen>
#include <QWidget>

namespace dimhem::ui {

QPen stitchPen(const QColor& colour, double widthPx = 3);

// A stitched line across the width of a panel.
class StitchLine final : public QWidget {
    Q_OBJECT

public:
    explicit StitchLine(QWidget* parent = nullptr);
    void setColour(const QColor& colour);  // an invalid colour: a plain thin line
    QSize sizeHint() const override { return {40, 5}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QColor colour_;
};

}  // namespace dimhem::ui
