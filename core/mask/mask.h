// A mask: parts combined top to bottom, each adding to, taking from or overlapping what stands so far.
//
// Coverage algebra: kernel/coverage_rows.h. A part is flipped first, then scaled by its opacity, then kept to
// its limit where it has one (their product), then combined. What the parts make together is refined (refine.h), then
// turned inside out where the mask is inverted.
#pragma once

#include <string>
#include <vector>

#include "core/base/param.h"
#include "core/mask/refine.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

enum class Combine { add, subtract, overlap };

using PartId = std::int64_t;

struct Part {
    PartId id = 0;
    std::string name;
    Combine combine = Combine::add;
    bool flipped = false;
    bool enabled = true;
    double opacityPct = 100;
    ShapePtr shape;
    // A range (ShapeKind::isRange) that what the part covers is kept to, after it is flipped; null: none. Not for a
    // zone.
    ShapePtr limit = nullptr;
};
using PartPtr = std::shared_ptr<const Part>;

inline constexpr base::ParamSpec opacitySpec = {.id = "opacity",
                                                .label = "Opacity",
                                                .unit = "%",
                                                .max = 100,
                                                .neutral = 100,
                                                .tip = "How much of this part enters the mask."};

struct Mask {
    bool startsEverywhere = false;
    bool inverted = false;
    std::vector<PartPtr> parts;
    Refine refine{};
    friend bool operator==(const Mask&, const Mask&) = default;  // the same objects as parts
};

std::size_t weightOf(const Part& part);  // of its shape and its limit: Shape::weight
std::size_t weightOf(const Mask& mask);
bool looksAtArriving(const Part& part);  // its shape, or its limit

const Part* findPart(const Mask& mask, PartId id);

// What it covers of an area. The mask and the context must outlive it.
Staged<Coverage> over(const Mask& mask, const Area& area, Context& context);
// The part alone, as it enters the mask (flipped, scaled by its opacity, kept to its limit).
Staged<Coverage> partOver(const Part& part, const Area& area, Context& context);

std::string_view idOf(Combine combine);  // "add", "subtract", "overlap"
std::optional<Combine> combineOf(std::string_view id);

}  // namespace dimhem::mask
