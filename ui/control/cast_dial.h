// The cast of an area before and after, on a neutral dial: a* to the right (red), b* up (yellow), with rings of equal
// CIEDE2000 difference from neutral. Nothing on it says what a colour should be, but for a place that was marked as
// known to be neutral.
#pragma once

#include <QPolygonF>
#include <QWidget>
#include <optional>

#include "core/colour/types.h"
#include "ui/control/spoken.h"

namespace dimhem::ui {

class CastDial final : public QWidget, public Spoken {
    Q_OBJECT

public:
    explicit CastDial(QWidget* parent);
    void setCast(const std::optional<colour::Lab>& before, const std::optional<colour::Lab>& after);
    void setNeutral(const std::optional<colour::Lab>& known);  // what a place known to be neutral has; none: no such

    QAccessible::Role spokenRole() const override { return QAccessible::Chart; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    double reach() const;  // chroma at the rim
    void findRings();

    std::optional<colour::Lab> before_, after_, neutral_;
    double ringsOf_ = -1;     // the tone the rings were found for
    QList<QPolygonF> rings_;  // in a*, b*
};

// The chroma at which a colour of that tone and hue (in degrees of a*b*) lies that far from neutral, CIEDE2000.
double chromaAt(double lightness, double hueDeg, double difference);

// The direction of a cast in trade words, as "towards yellow"; empty where there is none.
QString castDirection(const colour::Lab& lab);

}  // namespace dimhem::ui
