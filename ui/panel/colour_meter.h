// What the selected correction does to the colours under its mask: their tones before and after as a histogram, their
// mean colour, and in words when it has gone too far.
#pragma once

#include <QWidget>

#include "ui/session/colour_watch.h"

class QLabel;

namespace dimhem::ui {

class ColourMeter final : public QWidget {
    Q_OBJECT

public:
    ColourMeter(Session& session, const ColourWatch& colours, QWidget* parent);

    QString text() const;

private:
    void refresh();

    Session& session_;
    const ColourWatch& colours_;
    class TonePlot* plot_;
    QLabel* words_;
};

// "Chroma 14.2 to 3.1" and what to mind: past neutral, gone grey, newly clipped.
QString meterWords(const task::MaskedColours& colours);

}  // namespace dimhem::ui
