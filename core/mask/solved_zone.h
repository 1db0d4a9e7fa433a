// Where a mask is not known, it is solved from the picture (edge/solved_matte.h): the zone that a part says
// (Shape::isZone), from the mask that the parts before it make. The zone is what was painted over and, where the part
// says so, what is found along the mask's edge (edge/found_band.h), at one level for all.
//
// In blocks of 192 pixels on a fixed lattice of the level, each solved with 32 more about it and with samples from 128
// beyond, so that the outcome does not depend on what area is asked for. A stroke that is being painted counts once it
// is done.
#pragma once

#include <functional>

#include "core/mask/context.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

// The mask before the zone, over any area, 0..1.
using MaskBefore = std::function<Staged<image::Plane<float>>(const Area&)>;

// The zone must outlive the stage.
Staged<Coverage> solvedOver(const Shape& zone, const MaskBefore& before, const Area& area, Context& context);

}  // namespace dimhem::mask
