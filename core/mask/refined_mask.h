// A mask with what is done to it after its parts are combined (refine.h): worked out in blocks of fixed places where
// that looks far around, so that the outcome does not depend on what area is asked for.
#pragma once

#include "core/mask/mask.h"

namespace dimhem::mask {

// Not inverted yet. The mask, whose refining is not neutral, and the context must outlive it.
Staged<Coverage> refinedMask(const Mask& mask, const Area& area, Context& context);

}  // namespace dimhem::mask
