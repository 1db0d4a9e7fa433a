// What a correction does to the colours under its mask (or all of them to the whole photo): the tones before and after,
// the cast, and in words the figures, noise and haze.
#pragma once

#include <QWidget>

#include "ui/session/colour_watch.h"
#include "ui/session/noise_watch.h"
#include "ui/session/probe_watch.h"

class QLabel;

namespace dimhem::ui {

class CastDial;
class Fold;
class Histogram;
class Segmented;

class ColourMeter final : public QWidget {
    Q_OBJECT

public:
    ColourMeter(Session& session, ColourWatch& colours, const NoiseWatch& noise, const ProbeWatch& probes,
                QWidget* parent);

    QString text() const;

private:
    void refresh();
    void refreshTones(const task::MaskedColours* colours);
    void shine(double from, double to);
    void markPointer();

    Session& session_;
    ColourWatch& colours_;
    const NoiseWatch& noise_;
    const ProbeWatch& probes_;
    Fold* fold_;
    Segmented *channel_, *where_;
    Histogram* histogram_;
    CastDial* dial_;
    QLabel* words_;
};

// The tone and the cast before and after, with its direction and whether it has gone past neutral or to none, the
// difference, and what is newly lost.
QString meterWords(const task::MaskedColours& colours);
// Noise in levels of 255, and the share of haze.
QString meterWords(const task::MaskedNoise& noise);

}  // namespace dimhem::ui
