// The same tasks by OpenCV's general-purpose functions alone.
#pragma once

#include <memory>

#include "core/image/plane.h"
#include "core/render/photo_source.h"

namespace dimhem::edges {

// The mask through OpenCV's guided filter with the photo as guide.
image::Plane<float> guidedFilterAlone(const render::PhotoSource& photo, const image::Plane<float>& mask, int radius);

// OpenCV's GrabCut, five rounds: 0 surely outside, 1 surely inside, 2 probably outside, 3 probably inside.
image::Plane<float> grabCutAlone(const render::PhotoSource& photo, const image::Plane<std::uint8_t>& trimap);

}  // namespace dimhem::edges
