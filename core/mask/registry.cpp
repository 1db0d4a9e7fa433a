#include "core/mask/registry.h"

#include <nlohmann/json.hpp>

#include "core/mask/borrowed_mask.h"
#include "core/mask/brush.h"
#include "core/mask/colour_range.h"
#include "core/mask/haze_depth.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/matte.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/mask/region.h"
#include "core/mask/veil_density.h"
#include "core/mask/wire.h"

namespace dimhem::mask {

std::span<const ShapeKind* const> shapeKinds() {
    static constexpr const ShapeKind* kinds[] = {
        &Brush::kindInfo,       &LinearGradient::kindInfo,  &RadialGradient::kindInfo,
        &ColourRange::kindInfo, &LuminosityRange::kindInfo, &Outline::kindInfo,
        &Region::kindInfo,      &Matte::kindInfo,           &BorrowedMask::kindInfo,
        &HazeDepth::kindInfo,   &VeilDensity::kindInfo,     &Brush::fineDetail,
        &Wire::kindInfo,
    };
    return kinds;
}

const ShapeKind* findShapeKind(std::string_view id) {
    for (const ShapeKind* kind : shapeKinds()) {
        if (kind->id == id) return kind;
    }
    return nullptr;
}

bool isAsMade(const Shape& shape, base::Size photo) {
    if (shape.weight() > 1) return false;  // much was drawn: that need not be looked through
    nlohmann::json own, made;
    shape.toJson(own);
    shape.kind().makeFor(photo)->toJson(made);
    return own == made;
}

}  // namespace dimhem::mask
