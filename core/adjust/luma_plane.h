// Luma of a picture: the weights of BT.709 on encoded values.
#pragma once

#include "core/colour/srgb.h"
#include "core/image/plane.h"

namespace dimhem::adjust {

inline image::Plane<float> lumaOf(const image::EncodedPlanes& picture) {
    constexpr auto red = static_cast<float>(colour::lumaR), green = static_cast<float>(colour::lumaG),
                   blue = static_cast<float>(colour::lumaB);
    image::Plane<float> out(picture.size());
    for (int y = 0; y < out.size().height; ++y) {
        const float *r = picture.red.row(y).data(), *g = picture.green.row(y).data(), *b = picture.blue.row(y).data();
        float* to = out.row(y).data();
        for (int x = 0; x < out.size().width; ++x) to[x] = red * r[x] + green * g[x] + blue * b[x];
    }
    return out;
}

}  // namespace dimhem::adjust
