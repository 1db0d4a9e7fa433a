#include "ui/part/kinds.h"

#include <algorithm>

#include "core/mask/brush.h"
#include "ui/part/brings.h"
#include "ui/part/brush_rows.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

namespace {

// The switch of holding edges, and how far it goes, there while it is on.
void addHolding(const SettingsBuilder& b) {
    Session& session = b.session;
    static constexpr base::ParamSpec holds = {.id = "hold-edges",
                                              .label = "Hold edges",
                                              .tip = "Stops at the edge of the thing under the centre of the brush.",
                                              .toggle = true};
    auto* hold = new ValueSwitch(holds, b.body);
    hold->setObjectName("hold-edges");
    QObject::connect(hold, &ValueSwitch::changed, &session, [&session](bool on) {
        mask::BrushSettings brush = session.brush();
        brush.holds = on;
        session.setBrush(brush);
    });
    b.layout->addWidget(hold);
    const auto params = mask::brushParams();
    const auto tolerance = std::find_if(params.begin(), params.end(), [](const mask::BrushParam& param) {
        return param.value == &mask::BrushSettings::tolerancePct;
    });
    ValueSlider* slider = addBrushSlider(b, *tolerance);
    const auto show = [&session, hold, slider] {
        hold->setValue(session.brush().holds);
        slider->setVisible(session.brush().holds);
    };
    QObject::connect(&session, &Session::brushChanged, hold, show);
    show();
}

}  // namespace

void addBrush(const SettingsBuilder& b) {
    using Brush = mask::BrushSettings;
    Session& session = b.session;
    addBrushMode(b);
    addBringing(b);
    const auto isOften = [](const mask::BrushParam& param) {
        return param.value == &Brush::sizePx || param.value == &Brush::softnessPct ||
               param.value == &Brush::strengthPct;
    };
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (isOften(param)) addBrushSlider(b, param);
    }
    addHolding(b);
    const SettingsBuilder more = addMore(b);
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (!isOften(param) && param.value != &Brush::tolerancePct) addBrushSlider(more, param);
    }
    static constexpr base::ParamSpec standIn = {.id = "pen-stand-in",
                                                .label = "Pressure from speed",
                                                .tip = "For a mouse: a slow hand presses hard, a fast one lightly.",
                                                .toggle = true};
    auto* toggle = new ValueSwitch(standIn, more.body);
    toggle->setObjectName("pen-stand-in");
    QObject::connect(toggle, &ValueSwitch::changed, &session, &Session::setPenStandIn);
    more.layout->addWidget(toggle);
    const auto show = [&session, toggle] { toggle->setValue(session.penStandIn()); };
    QObject::connect(&session, &Session::brushChanged, toggle, show);
    show();
}

}  // namespace dimhem::ui
