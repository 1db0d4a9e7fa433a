// Every kind of shape, in the order people reach for them.
#pragma once

#include <span>

#include "core/mask/shape.h"

namespace dimhem::mask {

std::span<const ShapeKind* const> shapeKinds();
const ShapeKind* findShapeKind(std::string_view id);  // null where unknown

// Whether it is what a new part of its kind starts as: nobody has drawn or set anything yet.
bool isAsMade(const Shape& shape, base::Size photo);

}  // namespace dimhem::mask
