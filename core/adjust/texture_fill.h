// Texture fill: a hole filled with patches of what is around it (core/repair/patches.h), in encoded values, so that
// leaves, stone and weave go on in it.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind textureFill;

}  // namespace dimhem::adjust
