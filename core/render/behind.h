// What shows through where a photo is transparent: the document's backdrop, or where there is none a plain weave in two
// greys.
#pragma once

#include "core/document/backdrop.h"
#include "core/mask/coverage.h"
#include "core/render/photo_source.h"

namespace dimhem::render {

// Lays the picture, by the photo's own alpha, over the weave. The weave has the same size on screen at every level.
void layOverWeave(const PhotoSource& photo, const mask::Area& area, image::EncodedPlanes& picture);

// The same over one colour.
void layOverColour(const PhotoSource& photo, const mask::Area& area, const colour::EncodedRgb& colour,
                   image::EncodedPlanes& picture);

// The same over another picture, scaled to cover the photo, its middle on the photo's middle.
void layOverPicture(const PhotoSource& photo, const mask::Area& area, const PhotoSource& behind,
                    image::EncodedPlanes& picture);

}  // namespace dimhem::render
