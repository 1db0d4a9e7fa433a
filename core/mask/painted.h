// What the parts of a mask that paint lay down: colours over the picture, beside the coverage that all parts give.
#pragma once

#include "core/image/rgba_planes.h"
#include "core/mask/mask.h"

namespace dimhem::mask {

// Of the parts that are on, one over the other. Where nothing was painted, alpha is 0. The mask must outlive it.
Staged<image::RgbaPlanes> painted(const Mask& mask, const Area& area, Context& context);

// One layer over another, both of the same size: colours not multiplied by alpha (Porter and Duff, "Compositing digital
// images", 1984: over).
void layOver(const image::RgbaPlanes& layer, image::RgbaPlanes& below);

}  // namespace dimhem::mask
