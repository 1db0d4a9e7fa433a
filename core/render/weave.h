// What shows through where a photo is transparent: a plain weave in two greys.
#pragma once

#include "core/mask/coverage.h"
#include "core/render/photo_source.h"

namespace dimhem::render {

// Lays the picture, by the photo's own alpha, over the weave. The weave has the same size on screen at every level.
void layOverWeave(const PhotoSource& photo, const mask::Area& area, image::RgbPlanes& picture);

}  // namespace dimhem::render
