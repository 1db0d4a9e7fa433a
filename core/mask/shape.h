// A shape is what one part of a mask covers: a brush's strokes, a gradient. One kind of shape is one file pair,
// listed in registry.cpp.
//
// Shapes are immutable values of the document. Coordinates are pixels of the full-size photo and may lie outside it.
// Coverage is sampled at the centres of the level's pixels.
#pragma once

#include <memory>
#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string_view>

#include "core/base/error.h"
#include "core/image/rgba_planes.h"
#include "core/mask/context.h"

namespace dimhem::schema {
struct Members;
}

namespace dimhem::mask {

class Shape;
using ShapePtr = std::shared_ptr<const Shape>;

// Where a part's coverage ends: at an edge it was led to, gradually on its way, or as far across as was measured.
enum class Ends { atAnEdge, gradually, asMeasured };

struct ShapeKind {
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view tip;
    ShapePtr (*makeFor)(base::Size photo);  // what a new part of this kind starts as
    base::Result<ShapePtr> (*fromJson)(const nlohmann::json& json);
    dimhem::schema::Members (*schema)();  // of the members a document holds (core/json/schema.h)
    std::string_view group = {};          // what it is offered among: "drawn", "found", "from elsewhere"
    bool isRange = false;                 // chooses by what the picture shows: narrows a mask rather than adding to it
    Ends ends = Ends::atAnEdge;
    // What stands for one of them in another photo: still to be drawn, with the settings it has. Null: it has no use
    // there, or (a range) fits any photo as it is.
    ShapePtr (*anew)(const Shape& like, base::Size photo) = nullptr;
};

// The most that all shapes of a document may weigh together: some hundred megabytes, some thousand long strokes.
inline constexpr std::size_t mostWeight = 8'000'000;

using PaintStep = stage::Step<image::RgbaPlanes>;

class Shape {
public:
    virtual ~Shape() = default;
    // How much there is of it to hold and to work through, about in dabs of a brush.
    virtual std::size_t weight() const { return 1; }
    // Whether it may be measured on the picture as it arrives at the correction (Seen::arriving).
    virtual bool looksAtArriving() const { return false; }
    virtual const ShapeKind& kind() const = 0;

    // What it covers all of the area with, where that can be told at once, without looking at anything: most tiles are
    // not touched at all. None where it cannot.
    virtual std::optional<std::uint16_t> uniformOn(const Area&) const { return std::nullopt; }

    // What it covers within the area.
    virtual Staged<Coverage> over(const Area& area, Context& context) const = 0;

    // Whether it says where the mask before it is not known, and is to be solved from the picture (solved_zone.h).
    virtual bool isZone() const { return false; }

    // Whether it brings colours of its own beside its coverage, for an adjustment that lays them down (painted.h).
    virtual bool paints() const { return false; }
    // Lays its colours, as far as it covers, over what other parts painted; nothing where it covers none of the area.
    virtual std::optional<PaintStep> painting(const Area&, Context&) const { return std::nullopt; }

    // The members a document holds beside "kind"; kind().fromJson reads them back.
    virtual void toJson(nlohmann::json& json) const = 0;
};

}  // namespace dimhem::mask
