#include "ui/part/kinds.h"

#include <QLabel>

#include "core/mask/veil_density.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addVeilDensity(const SettingsBuilder& b) {
    using Values = mask::VeilDensityValues;
    addSlider<mask::VeilDensity, Values>(
        b, mask::densitySmoothSpec, &Values::smoothPx, [](const mask::VeilDensity& v) { return v.values(); },
        [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::VeilDensity>(v); });
    addSlider<mask::VeilDensity, Values>(
        b, mask::clearBelowSpec, &Values::clearBelowPct, [](const mask::VeilDensity& v) { return v.values(); },
        [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::VeilDensity>(v); });
    addMeasuredOf<mask::VeilDensity>(b, QObject::tr("change what the veil is measured on"));
    QLabel* state = addHint(b, {});
    state->setObjectName("veil-state");
    b.onRefresh([b, state] {
        const auto shape = shapeOf<mask::VeilDensity>(b);
        if (!shape) return;
        const Values& v = shape->values();
        state->setText(!v.dense   ? QObject::tr("Press on the photo where the veil is densest.")
                       : !v.clear ? QObject::tr("Alt and press where there is none, on things like those under it.")
                       : shape->direction()
                           ? QObject::tr("Press where the veil is densest, with Alt where there is none.")
                           : QObject::tr("The two places are too much alike in colour: no veil can be told by it."));
    });
}

}  // namespace dimhem::ui
