#include "core/mask/bringer.h"

namespace dimhem::mask {

const Bringer bringsColour = {
    .looksAt = [](const Stroke&, const base::Rect&, int) { return base::Rect{}; },
    .over =
        [](const BeforeStroke& before, const base::Rect& tile) {
            const colour::EncodedRgb& colour = before.brings().colour;
            image::EncodedPlanes out;
            out.red = image::filled(tile.size(), static_cast<float>(colour.r));
            out.green = image::filled(tile.size(), static_cast<float>(colour.g));
            out.blue = image::filled(tile.size(), static_cast<float>(colour.b));
            return out;
        },
};

}  // namespace dimhem::mask
