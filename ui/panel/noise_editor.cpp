#include <QLabel>
#include <algorithm>

#include "core/adjust/noise.h"
#include "ui/control/noise_curve.h"
#include "ui/panel/adjustment_editor.h"

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
    says->setText(
        luminance.isEmpty() || colour.isEmpty()
            ? QObject::tr("Measuring the noise of the photo ...")
            : QObject::tr("Noise in levels of 255: luminance %1, colour %2. Judge it at 1:1: hold Z over the photo.")
                  .arg(rangeOf(luminance), rangeOf(colour)));
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
    f.addMeasuring(QObject::tr("Click, then drag over a flat place of the photo: the noise is measured there alone."),
                   QObject::tr("Drag over a flat place"),
                   QObject::tr("Measures the noise under the mask, as it is now."));
}

}  // namespace dimhem::ui
