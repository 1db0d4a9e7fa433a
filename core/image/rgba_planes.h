// Colours laid over a picture: encoded sRGB and how much of them there is.
#pragma once

#include "core/image/plane.h"

namespace dimhem::image {

struct RgbaPlanes {
    RgbaPlanes() = default;
    explicit RgbaPlanes(base::Size size) : colours(size), alpha(filled(size, 0.0f)) {}
    EncodedPlanes colours;  // as they are where alpha is 1; of no meaning where it is 0
    Plane<float> alpha;     // 0..1
    std::size_t bytes() const { return colours.bytes() + alpha.bytes(); }
};

}  // namespace dimhem::image
