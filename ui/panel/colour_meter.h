// What the selected correction does to what lies under its mask: the tones before and after as a histogram, the mean
// colour, in words when it has gone too far, and noise and haze.
#pragma once

#include <QWidget>

#include "ui/session/colour_watch.h"
#include "ui/session/noise_watch.h"

class QLabel;

namespace dimhem::ui {

class ColourMeter final : public QWidget {
    Q_OBJECT

public:
    ColourMeter(Session& session, const ColourWatch& colours, const NoiseWatch& noise, QWidget* parent);

    QString text() const;

private:
    void refresh();

    Session& session_;
    const ColourWatch& colours_;
    const NoiseWatch& noise_;
    class Fold* fold_;
    class TonePlot* plot_;
    QLabel* words_;
};

// "Chroma 14.2 to 3.1" and what to mind: past neutral, gone grey, newly clipped.
QString meterWords(const task::MaskedColours& colours);
// Noise in levels of 255, and the share of haze.
QString meterWords(const task::MaskedNoise& noise);

}  // namespace dimhem::ui
