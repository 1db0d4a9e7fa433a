// How strokes of one kind (brings.h) come by the colours they bring: each kind is one file, listed in bringer.cpp.
#pragma once

#include <optional>

#include "core/mask/before_stroke.h"

namespace dimhem::mask {

struct Bringer {
    // What of the level such a stroke looks at to know what it brings, beside the place it touches (`target`).
    base::Rect (*looksAt)(const Stroke& stroke, const base::Rect& target, int level);
    // The colours over a tile, whatever the stroke covers of it.
    image::EncodedPlanes (*over)(const BeforeStroke& before, const base::Rect& tile);
};

extern const Bringer bringsColour, bringsClone, bringsHealed, bringsLine;

const Bringer* bringerOf(BringKind kind);  // null for nothing

// Where a stroke that heals without an offset of its own takes from, in pixels of the photo; none where it finds
// nothing, or does not look for it.
std::optional<base::Point> offsetOf(const BeforeStroke& before);

// The pixels that hold a rectangle moved by any way.
base::Rect moved(const base::Rect& rect, base::Point by);
inline constexpr int readBetweenPx = 3;  // what is read about a place between pixels

}  // namespace dimhem::mask
