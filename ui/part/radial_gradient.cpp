#include "ui/part/kinds.h"

#include "core/mask/radial_gradient.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addRadialGradient(const SettingsBuilder& b) {
    addSlider<mask::RadialGradient, mask::Oval>(
        b, mask::ovalFeatherSpec, &mask::Oval::featherPct, [](const mask::RadialGradient& g) { return g.oval(); },
        [](const mask::Oval& oval) { return std::make_shared<mask::RadialGradient>(oval); });
    addHint(b,
            QObject::tr(
                "Drag on the photo to lay the oval from its centre, with Alt from its corner; Shift keeps it round. "
                "Drag the "
                "knobs to stretch, the filled one to feather, the centre to move, the one outside to turn. It may lie "
                "beside the photo. F inverts it."));
}

}  // namespace dimhem::ui
