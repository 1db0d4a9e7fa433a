// A shape is what one part of a mask covers: a brush's strokes, a gradient. One kind of shape is one file pair,
// listed in registry.cpp.
//
// Shapes are immutable values of the document. Coordinates are pixels of the full-size photo and may lie outside it.
// Coverage is sampled at the centres of the level's pixels.
#pragma once

#include <memory>
#include <nlohmann/json_fwd.hpp>
#include <string_view>

#include "core/base/error.h"
#include "core/mask/context.h"

namespace dimhem::mask {

class Shape;
using ShapePtr = std::shared_ptr<const Shape>;

struct ShapeKind {
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view tip;
    ShapePtr (*makeFor)(base::Size photo);  // what a new part of this kind starts as
    base::Result<ShapePtr> (*fromJson)(const nlohmann::json& json);
};

class Shape {
public:
    virtual ~Shape() = default;
    virtual const ShapeKind& kind() const = 0;

    // The key of what the shape covers within the area: equal keys, equal coverage.
    virtual base::ContentKey keyOn(const Area& area, Context& context) const = 0;
    virtual CoveragePtr render(const Area& area, Context& context) const = 0;

    // The members a document holds beside "kind"; kind().fromJson reads them back.
    virtual void toJson(nlohmann::json& json) const = 0;
};

}  // namespace dimhem::mask
