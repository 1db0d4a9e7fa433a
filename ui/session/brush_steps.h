// The brush made larger or smaller, softer or harder, weaker or stronger: by keys and wheel in steps, by a drag.
#pragma once

#include <QPointF>

#include "core/mask/stroke.h"

namespace dimhem::ui {

enum class BrushTrait { size, softness, strength };

// A step up or down; sizes by a tenth of what they are, softness by 5 %, strength from one to the next of a row that is
// finer the weaker it is: strokes of a few percent are laid over one another.
mask::BrushSettings stepped(mask::BrushSettings brush, BrushTrait trait, int steps);

// As a hand drags that far on the screen: to the right larger, up softer; or, for its strength, up stronger.
mask::BrushSettings dragged(mask::BrushSettings brush, QPointF way, bool strength);

}  // namespace dimhem::ui
