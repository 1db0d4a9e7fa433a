#include "ui/part/kinds.h"

#include "core/mask/wire.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addWire(const SettingsBuilder& b) {
    struct Values {
        std::vector<mask::WireLine> lines;
        double widthPct;
    };
    addSlider<mask::Wire, Values>(
        b, mask::wireWidthSpec, &Values::widthPct,
        [](const mask::Wire& w) {
            return Values{w.lines(), w.widthPct()};
        },
        [](const Values& v) { return std::make_shared<mask::Wire>(v.lines, v.widthPct); });
    addHint(
        b,
        QObject::tr(
            "Click along a wire, rope, mast or rail: from click to click it is followed. Enter or a double "
            "click ends the line. Places can be dragged; Ctrl and a click on one takes it away, elsewhere it begins a "
            "wire that is left out."));
}

}  // namespace dimhem::ui
