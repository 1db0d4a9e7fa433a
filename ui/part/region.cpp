#include "ui/part/kinds.h"

#include "core/mask/region.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addRegion(const SettingsBuilder& b) {
    struct Values {
        std::vector<mask::RegionDrag> drags;
        double reachPct;
        bool apart;
    };
    addSlider<mask::Region, Values>(
        b, mask::regionReachSpec, &Values::reachPct,
        [](const mask::Region& r) {
            return Values{r.drags(), r.reachPct(), r.takesApart()};
        },
        [](const Values& v) { return std::make_shared<mask::Region>(v.drags, v.reachPct, v.apart); });
    static constexpr base::ParamSpec parts = {
        .id = "region-apart",
        .label = "Parts apart",
        .tip =
            "Takes in parts that no drag reaches where their colours are surely those of the thing, such as sky "
            "between roofs.",
        .toggle = true};
    auto* apart = new ValueSwitch(parts, b.body);
    apart->setObjectName("region-apart");
    QObject::connect(apart, &ValueSwitch::changed, &b.session, [b](bool on) {
        editShape<mask::Region>(b, on ? QObject::tr("take in parts apart") : QObject::tr("leave out parts apart"),
                                [&](const mask::Region& shape) {
                                    return std::make_shared<mask::Region>(shape.drags(), shape.reachPct(), on);
                                });
    });
    b.onRefresh([b, apart] {
        if (const auto shape = shapeOf<mask::Region>(b)) apart->setValue(shape->takesApart());
    });
    b.layout->addWidget(apart);
    addHint(b, QObject::tr("Drag roughly inside the thing: it fills out to its edge. Further drags add what was left "
                           "out, Ctrl and drag takes away what was too much. A dotted ring shows where it is least "
                           "sure: a drag there tells most."));
}

}  // namespace dimhem::ui
