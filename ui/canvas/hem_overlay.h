// What the hem check shows over the photo: the map of spill and short, and a line round the finding that is looked at.
#pragma once

#include <QImage>
#include <QPainter>

#include "ui/canvas/viewport.h"
#include "ui/session/hem_watch.h"

namespace dimhem::ui {

class HemOverlay {
public:
    explicit HemOverlay(const HemWatch& hem) : hem_(hem) {}

    void refresh();  // the report is another
    void paint(QPainter& painter, const Viewport& viewport) const;

private:
    const HemWatch& hem_;
    QImage map_;  // of the level that was looked at
    int level_ = 0;
};

}  // namespace dimhem::ui
