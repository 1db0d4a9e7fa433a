#include <QLabel>
#include <algorithm>

#include "core/adjust/grain.h"
#include "ui/panel/adjustment_editor.h"

namespace dimhem::ui {

namespace {

QString grainFound(const adjust::Settings& settings) {
    const auto level = adjust::measuredGrain(settings);
    if (!level) return QObject::tr("Measuring the grain of the photo ...");
    const auto [least, most] = std::ranges::minmax(level->sigma);
    if (most == 0) return QObject::tr("No grain was found here: measure a place that has some.");
    return QObject::tr("Grain of %1 px, %2 to %3 levels of 255, colour %4 % of it.")
        .arg(QString::number(level->sizePx, 'f', 1), QString::number(255 * least, 'f', 1),
             QString::number(255 * most, 'f', 1), QString::number(100 * level->colour, 'f', 0));
}

}  // namespace

void buildGrainEditor(const EditorFrame& f) {
    for (std::size_t i = 0; i < f.kind.params.size(); ++i) f.addParameter(i);
    auto* says = new QLabel(f.body);
    says->setObjectName("grain-found");
    says->setProperty("quiet", true);
    says->setWordWrap(true);
    f.onRefresh([f, says] {
        if (f.settings()) says->setText(grainFound(*f.settings()));
    });
    f.layout->addWidget(says);
    f.addMeasuring(
        QObject::tr("Click, then drag over a flat place whose grain is to be laid on: beside the mask, as a rule."),
        QObject::tr("Drag over a place with the grain that is wanted"),
        QObject::tr("Measures the grain under the mask, as it is now."));
}

}  // namespace dimhem::ui
