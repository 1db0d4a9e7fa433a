#include "ui/part/kinds.h"

#include "core/mask/linear_gradient.h"
#include "ui/control/segmented.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addLinearGradient(const SettingsBuilder& b) {
    auto* profile = new Segmented(QObject::tr("Profile"),
                                  {{QObject::tr("smooth"), QObject::tr("Begins and ends gently: its ends do not show")},
                                   {QObject::tr("linear"), QObject::tr("Fades evenly from full to none")}},
                                  b.body);
    b.onRefresh([b, profile] {
        if (const auto g = shapeOf<mask::LinearGradient>(b))
            profile->setCurrent(g->profile() == mask::GradientProfile::linear ? 1 : 0);
    });
    QObject::connect(profile, &Segmented::chosen, &b.session, [b](int index) {
        const auto chosen = index == 1 ? mask::GradientProfile::linear : mask::GradientProfile::smooth;
        editShape<mask::LinearGradient>(b, QObject::tr("change profile of gradient"),
                                        [&](const mask::LinearGradient& g) {
                                            return std::make_shared<mask::LinearGradient>(g.full(), g.none(), chosen);
                                        });
    });
    addLabelled(b, QObject::tr("Profile"), profile);
    addHint(
        b,
        QObject::tr(
            "Drag on the photo to lay the gradient; drag its lines to widen, the spine to move, a line's end to turn. "
            "Shift keeps to 15 degrees."));
}

}  // namespace dimhem::ui
