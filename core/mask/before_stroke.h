// What a stroke that brings something looks at, on a level: the picture as it arrives at the correction, with what the
// strokes before it brought, and what the stroke itself covers.
//
// A read (core/stage/staged.h) of all that bears on the stroke, directly or through the strokes before it. The strokes
// and the context must outlive it.
#pragma once

#include <functional>
#include <memory>
#include <span>
#include <vector>

#include "core/image/rgba_planes.h"
#include "core/mask/context.h"
#include "core/mask/stroke.h"

namespace dimhem::mask {

// A stroke on a level: what it touches, and all it depends on through the strokes before it.
struct PlannedStroke {
    std::size_t index;  // among all strokes
    StrokePtr stroke;
    base::Rect target;     // pixels of the level
    base::Rect depends;    // what it sees of the arriving picture, itself or through others; empty: nothing
    base::ContentKey key;  // of the strokes it depends on and itself
};

// How the strokes of a level that bring or remove something bear on one another: worked out once.
struct StrokePlan {
    std::vector<PlannedStroke> strokes;
    std::size_t bytes() const { return strokes.size() * sizeof(PlannedStroke); }
};
using StrokePlanPtr = std::shared_ptr<const StrokePlan>;

class BeforeStroke {
public:
    // One for each stroke that brings or removes something, in their order.
    static std::vector<BeforeStroke> allOf(std::span<const StrokePtr> strokes, int level, Context& context);

    base::ContentKey key() const;
    const BeforeStroke& value() const { return *this; }

    const StrokePtr& stroke() const { return planned().stroke; }
    std::size_t index() const { return planned().index; }
    const Brings& brings() const { return stroke()->brush().brings; }
    int level() const { return level_; }
    base::Size size() const { return image::levelSize(context_->photoSize(), level_); }  // of the level
    const base::Rect& target() const { return planned().target; }  // what the stroke touches, pixels of the level
    stage::Store& store() const { return *context_; }

    // Over rectangles that may reach beyond the photo.
    image::EncodedPlanes picture(const base::Rect& rect) const;
    image::Plane<float> coverage(const base::Rect& rect) const;
    // The picture at other places of the photo: `from` tells which, for a place of the rectangle.
    image::EncodedPlanes taken(const base::Rect& rect, const std::function<base::Point(base::Point)>& from) const;

    // The same stroke on another level, and the same place before another stroke than this one.
    BeforeStroke onLevel(int level) const;
    BeforeStroke withStroke(StrokePtr stroke) const;

private:
    BeforeStroke(StrokePlanPtr plan, std::size_t place, int level, Context& context)
        : plan_(std::move(plan)), place_(place), level_(level), context_(&context) {}
    const PlannedStroke& planned() const { return plan_->strokes[place_]; }
    std::vector<StrokePtr> strokesBefore() const;

    StrokePlanPtr plan_;
    std::size_t place_;
    int level_;
    Context* context_;
};

inline void addTo(base::KeyBuilder& key, const BeforeStroke& before) {
    key.add(before.key());
}

// What strokes brought over an area, each over those before it, over what is laid down already.
void layBrought(const std::vector<BeforeStroke>& strokes, const Area& area, image::RgbaPlanes& out);

}  // namespace dimhem::mask
