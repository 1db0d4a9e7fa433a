#include "ui/part/kinds.h"

#include "core/mask/colour_range.h"
#include "ui/control/segmented.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addColourRange(const SettingsBuilder& b) {
    using Values = mask::ColourRangeValues;
    const auto values = [](const mask::ColourRange& r) { return r.values(); };
    const auto made = [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::ColourRange>(v); };
    const auto change = [b](const QString& step, const std::function<void(Values&)>& change) {
        editShape<mask::ColourRange>(b, step, [&](const mask::ColourRange& shape) {
            Values v = shape.values();
            change(v);
            return std::make_shared<mask::ColourRange>(v);
        });
    };
    const auto present = shapeOf<mask::ColourRange>(b);
    const bool byHue = present && present->values().byHue;
    auto* by = new Segmented(QObject::tr("Chosen by"),
                             {{QObject::tr("picked colours"), QObject::tr("Colours like those picked on the photo")},
                              {QObject::tr("hues"), QObject::tr("A band of hues")}},
                             b.body);
    by->setCurrent(byHue ? 1 : 0);
    QObject::connect(by, &Segmented::chosen, &b.session, [change](int index) {
        change(QObject::tr("change how colours are chosen"), [index](Values& v) { v.byHue = index == 1; });
    });
    addLabelled(b, QObject::tr("Chosen by"), by);
    if (byHue) {
        addStrip<mask::ColourRange, Values>(b, RangeStrip::Scale::hue, QObject::tr("Hues"), "hues",
                                            QObject::tr("change hues of range"), &Values::hues);
    }
    const auto addParams = [&](const SettingsBuilder& to, bool rarelyUsed) {
        for (const mask::ColourRangeParam& param : mask::colourRangeParams()) {
            const bool ofHue = param.value == &Values::minChromaPct;
            const bool ofPicks = param.value == &Values::tolerance || param.value == &Values::softness;
            if ((byHue && ofPicks) || (!byHue && ofHue) || rarelyUsed != (param.value == &Values::smoothPx)) continue;
            addSlider<mask::ColourRange, Values>(to, param.spec, param.value, values, made);
        }
    };
    addParams(b, false);
    static constexpr base::ParamSpec together = {.id = "connected",
                                                 .label = "Connected",
                                                 .tip = "Only what is connected with the places picked.",
                                                 .toggle = true};
    auto* connected = new ValueSwitch(together, b.body);
    connected->setObjectName("connected");
    QObject::connect(connected, &ValueSwitch::changed, &b.session, [change](bool on) {
        change(QObject::tr("change connected"), [on](Values& v) { v.connected = on; });
    });
    b.onRefresh([b, connected] {
        if (const auto shape = shapeOf<mask::ColourRange>(b)) connected->setValue(shape->values().connected);
    });
    b.layout->addWidget(connected);
    const SettingsBuilder more = addMore(b);
    addParams(more, true);
    addMeasuredOf<mask::ColourRange>(more, QObject::tr("change what the range is measured on"));
    addHint(b, byHue ? QObject::tr("Click on the photo to set the band about the hue there.")
                     : QObject::tr("Click on the photo to add a colour, drag to average an area. Ctrl and a click on "
                                   "a pick takes it away; elsewhere that colour is left out of the mask."));
}

}  // namespace dimhem::ui
