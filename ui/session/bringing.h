// What the brush brings, as far as the hand decides it stroke by stroke: where it takes from, and the colours picked.
#pragma once

#include <QList>
#include <optional>

#include "core/base/rect.h"
#include "core/colour/types.h"

namespace dimhem::ui {

struct Bringing {
    std::optional<base::Point> from;    // the place picked on the photo
    std::optional<base::Point> offset;  // to it, once a stroke has begun: kept, so that it moves along with the brush
    bool fixed = false;                 // every stroke takes from the place picked, wherever it begins
    bool finds = true;                  // healing finds its place by itself
    int pickerPx = 5;                   // side of the square that a colour is the mean of
    static constexpr qsizetype mostColours = 8;
    QList<colour::EncodedRgb> colours;  // picked lately, the newest first

    // The offset for a stroke that begins at a place.
    std::optional<base::Point> offsetFor(base::Point place) const {
        if (!from) return std::nullopt;
        return fixed || !offset ? *from - place : *offset;
    }
};

}  // namespace dimhem::ui
