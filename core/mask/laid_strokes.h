// What strokes come to over an area, laid one after the other.
//
// Each stroke lays at most its strength: n strokes of strength s over the same place give 1 - (1 - s)^n. A removing
// stroke takes away in the same proportion. A stroke that holds edges goes at most as far as a pixel belongs to the
// thing (held_stroke.h), so that painting on over a soft edge never hardens it: h being how much it belongs, coverage c
// becomes c + s (h - c) where that is more, or c - s (c - (1 - h)) where less.
//
// Strokes that hold together are laid as one: together they lay l = 1 - (1 - s1) (1 - s2) ..., and c becomes
// c + l (h - c).
#pragma once

#include <span>

#include "core/mask/context.h"
#include "core/mask/stroke.h"

namespace dimhem::mask {

// Strokes of which none is being painted.
struct LaidStrokes {
    std::span<const StrokePtr> strokes;
    base::ContentKey key;  // of these strokes, whatever the area

    Staged<Coverage> over(const Area& area, Context& context) const;
};

// One more, which is being painted, laid onto what is there. It goes on from where it stood when the same area was last
// rendered; the outcome is the same as from its beginning. The stroke must outlive the stage.
Staged<Coverage> laidOnto(const Staged<Coverage>& before, const StrokePtr& stroke, const Area& area, Context& context);

// What one stroke covers of an area by itself, 0..1, at its strength. The stroke must outlive the stage.
Staged<image::Plane<float>> strokeOver(const StrokePtr& stroke, const Area& area, Context& context);

// The area in pixels of the photo, wider by the pixel a rim may spread to at its level.
base::Rect reachOf(const Area& area);

}  // namespace dimhem::mask
