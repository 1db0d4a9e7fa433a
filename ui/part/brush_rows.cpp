#include "ui/part/brush_rows.h"

#include <QVBoxLayout>

#include "ui/control/labelled_row.h"
#include "ui/control/segmented.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

ValueSlider* addBrushSlider(const SettingsBuilder& b, const mask::BrushParam& param) {
    Session& session = b.session;
    auto* slider = new ValueSlider(param.spec, b.body);
    slider->setObjectName("brush-" + idText(param.spec.id));
    slider->setValue(session.brush().*param.value);
    QObject::connect(slider, &ValueSlider::changed, &session, [&session, &param](double value) {
        mask::BrushSettings brush = session.brush();
        brush.*param.value = value;
        session.setBrush(brush);
    });
    QObject::connect(&session, &Session::brushChanged, slider,
                     [&session, slider, &param] { slider->setValue(session.brush().*param.value); });
    b.layout->addWidget(slider);
    return slider;
}

// Whether the brush paints or removes.
void addBrushMode(const SettingsBuilder& b) {
    Session& session = b.session;
    auto* mode = new Segmented(
        QObject::tr("Brush"),
        {{QObject::tr("paints"), QObject::tr("The brush adds to this part (%1 changes it)").arg(keyText("removes"))},
         {QObject::tr("removes"),
          QObject::tr("The brush takes away from this part (%1 changes it; held, for as long as it is held)")
              .arg(keyText("removes"))}},
        b.body);
    QObject::connect(mode, &Segmented::chosen, &session, [&session](int index) {
        mask::BrushSettings brush = session.brush();
        brush.removes = index == 1;
        session.setBrush(brush);
    });
    addLabelled(b, QObject::tr("Brush"), mode);
    const auto show = [&session, mode] { mode->setCurrent(session.brush().removes ? 1 : 0); };
    QObject::connect(&session, &Session::brushChanged, mode, show);
    show();
}

}  // namespace dimhem::ui
