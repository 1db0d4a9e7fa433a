// How often each tone comes, from dark to light: before filled, after as a line. The ends are marked where something is
// lost there, with its share.
//
// While a part of it is pressed (or, with the focus on it, Space is held at the place the cursor keys have moved to),
// shines() says which tones that part stands for.
#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "ui/control/spoken.h"

namespace dimhem::ui {

class Histogram final : public QWidget, public Spoken {
    Q_OBJECT

public:
    struct Tones {
        std::vector<double> before, after;  // of the same number of bins, any unit
        double lowPct = 0, highPct = 0;     // lost at the ends, after
    };

    Histogram(const QString& name, QWidget* parent);
    void setTones(std::optional<Tones> tones);  // none: nothing to show
    void setMark(std::optional<double> tone);   // under the pointer on the photo, a part of 1

    QAccessible::Role spokenRole() const override { return QAccessible::Chart; }
    std::optional<SpokenValue> spokenValue() const override;

Q_SIGNALS:
    void shines(double from, double to);  // parts of 1
    void shinesNoMore();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void shineAt(double part);
    void letGo();

    std::optional<Tones> tones_;
    std::optional<double> mark_;
    double at_ = 0.5;  // where the cursor keys have moved to
    bool held_ = false;
};

}  // namespace dimhem::ui
