#include <QLabel>
#include <QPushButton>
#include <algorithm>

#include "core/adjust/noise.h"
#include "core/task/measuring.h"
#include "ui/control/noise_curve.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

QList<double> sigmasOf(const adjust::Settings& settings, adjust::NoisePlane plane) {
    const std::vector<double> sigmas = adjust::measuredNoise(settings, 0, plane);
    return {sigmas.begin(), sigmas.end()};
}

// Of the two planes of colour, the noisier one.
QList<double> colourSigmas(const adjust::Settings& settings) {
    QList<double> u = sigmasOf(settings, adjust::NoisePlane::u);
    const QList<double> v = sigmasOf(settings, adjust::NoisePlane::v);
    for (qsizetype i = 0; i < std::min(u.size(), v.size()); ++i) u[i] = std::max(u[i], v[i]);
    return u;
}

QString rangeOf(const QList<double>& sigmas) {
    const auto [least, most] = std::minmax_element(sigmas.begin(), sigmas.end());
    return QObject::tr("%1 to %2").arg(QString::number(*least, 'f', 1), QString::number(*most, 'f', 1));
}

void show(const EditorFrame& f, NoiseCurve* curve, QLabel* says) {
    if (!f.settings()) return;
    const QList<double> luminance = sigmasOf(*f.settings(), adjust::NoisePlane::y),
                        colour = colourSigmas(*f.settings());
    curve->setNoise(luminance, colour);
    says->setText(luminance.isEmpty() || colour.isEmpty()
                      ? QObject::tr("Measuring the noise of the photo ...")
                      : QObject::tr("Noise in levels of 255: luminance %1, colour %2. Judge it at 1:1.")
                            .arg(rangeOf(luminance), rangeOf(colour)));
}

// Under the mask, or in a place alone; in the background.
void measure(const EditorFrame& f, const std::optional<base::Rect>& place) {
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), correction = f.correction, use = f.use,
         place] { return task::measured(*renderer, document, correction, use, place); },
        [f](const std::optional<adjust::Settings>& found) {
            if (!found) return;
            f.edit(f.step(QObject::tr("measure")), [&](adjust::Settings& next) { next.tables = found->tables; });
        });
}

}  // namespace

void buildNoiseEditor(const EditorFrame& f) {
    for (std::size_t i = 0; i < f.kind.params.size(); ++i) f.addParameter(i);
    auto* curve = new NoiseCurve(f.body);
    auto* says = new QLabel(f.body);
    says->setObjectName("measured-noise");
    says->setProperty("quiet", true);
    says->setWordWrap(true);
    f.onRefresh([f, curve, says] { show(f, curve, says); });
    f.layout->addWidget(curve);
    f.layout->addWidget(says);
    QHBoxLayout* row = f.addRow();
    QPushButton* here =
        f.addButton("maximize", QObject::tr("Measure here"), "measure-here",
                    QObject::tr("Then drag over a flat place of the photo: the noise is measured there alone."), row);
    QObject::connect(here, &QPushButton::clicked, f.body, [f] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Drag over a flat place");
        gesture.marksArea = true;
        gesture.done = [f](const PhotoDrag& drag) { measure(f, drag.area()); };
        f.session.ask(std::move(gesture));
    });
    QPushButton* again = f.addButton("redo-2", QObject::tr("Again"), "measure-again",
                                     QObject::tr("Measures the noise under the mask, as it is now."), row);
    QObject::connect(again, &QPushButton::clicked, f.body, [f] { measure(f, {}); });
    row->addStretch(1);
}

}  // namespace dimhem::ui
