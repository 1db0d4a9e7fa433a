#include "core/mask/bringer.h"

#include <cmath>

namespace dimhem::mask {

const Bringer* bringerOf(BringKind kind) {
    switch (kind) {
        case BringKind::nothing: return nullptr;
        case BringKind::colour: return &bringsColour;
        case BringKind::clone: return &bringsClone;
        case BringKind::heal: return &bringsHealed;
        case BringKind::line: return &bringsLine;
    }
    return nullptr;
}

base::Rect moved(const base::Rect& r, base::Point by) {
    return {static_cast<int>(std::floor(r.x0 + by.x)), static_cast<int>(std::floor(r.y0 + by.y)),
            static_cast<int>(std::ceil(r.x1 + by.x)), static_cast<int>(std::ceil(r.y1 + by.y))};
}

}  // namespace dimhem::mask
