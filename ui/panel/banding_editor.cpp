#include <QLabel>
#include <algorithm>

#include "core/adjust/banding.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

QString stepsFound(const adjust::Settings& settings) {
    if (settings.tables[0].empty()) return QObject::tr("Looking for steps in the photo ...");
    const adjust::BandingSteps steps = adjust::measuredSteps(settings);
    if (std::ranges::all_of(steps, [](const adjust::BandingStep& s) { return s.step == 0; }))
        return QObject::tr("No steps were found here: nothing changes.");
    const auto words = [](const adjust::BandingStep& s) {
        return s.step == 0 ? QObject::tr("none") : QString::number(s.step, 'f', 1);
    };
    return QObject::tr("Steps found, in levels of 255: red %1, green %2, blue %3.")
        .arg(words(steps[0]), words(steps[1]), words(steps[2]));
}

}  // namespace

void buildBandingEditor(const EditorFrame& f) {
    for (std::size_t i = 0; i < f.kind.params.size(); ++i) f.addParameter(i);
    auto* says = new QLabel(f.body);
    says->setObjectName("steps-found");
    says->setProperty("quiet", true);
    says->setWordWrap(true);
    f.onRefresh([f, says] {
        if (f.settings()) says->setText(stepsFound(*f.settings()));
    });
    f.layout->addWidget(says);
    f.addMeasuring(QObject::tr("Click, then drag over a place with bands: the steps are looked for there alone."),
                   QObject::tr("Drag over a place with bands"),
                   QObject::tr("Looks for the steps under the mask, as it is now."));
}

}  // namespace dimhem::ui
