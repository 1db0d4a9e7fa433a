#include "ui/part/kinds.h"

#include "core/mask/brush.h"
#include "ui/part/brush_rows.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addFineDetail(const SettingsBuilder& b) {
    static constexpr base::ParamSpec alongEdge = {
        .id = "along-edge",
        .label = "Along edge",
        .tip =
            "Looks for fine detail and soft passages along the edge of the mask above; what is solid stays as it is.",
        .toggle = true};
    auto* looks = new ValueSwitch(alongEdge, b.body);
    looks->setObjectName("detail-along-edge");
    QObject::connect(looks, &ValueSwitch::changed, &b.session, [b](bool on) {
        editShape<mask::Brush>(b, on ? QObject::tr("look along edge") : QObject::tr("look where painted only"),
                               [on](const mask::Brush& shape) { return shape.withLookingAlongEdge(on); });
    });
    b.onRefresh([b, looks] {
        if (const auto shape = shapeOf<mask::Brush>(b)) looks->setValue(shape->looksAlongEdge());
    });
    b.layout->addWidget(looks);
    addBrushMode(b);
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (param.value == &mask::BrushSettings::sizePx) addBrushSlider(b, param);
    }
    addHint(b, QObject::tr("Paint over the whole passage where hair, leaves or fringe meet what is behind: a little of "
                           "what is surely one and surely the other may stay beside it. The parts above say which "
                           "side is which. Removing leaves a passage as the parts above have it."));
}

}  // namespace dimhem::ui
