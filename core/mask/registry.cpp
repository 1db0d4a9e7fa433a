#include "core/mask/registry.h"

#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"

namespace dimhem::mask {

std::span<const ShapeKind* const> shapeKinds() {
    static constexpr const ShapeKind* kinds[] = {&Brush::kindInfo, &LinearGradient::kindInfo};
    return kinds;
}

const ShapeKind* findShapeKind(std::string_view id) {
    for (const ShapeKind* kind : shapeKinds()) {
        if (kind->id == id) return kind;
    }
    return nullptr;
}

}  // namespace dimhem::mask
