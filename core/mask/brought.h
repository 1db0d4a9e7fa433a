// What the strokes of a brush bring (brings.h), laid down one over the other over the picture as it arrives at their
// correction. A stroke looks at that picture with what the strokes before it brought, never at what it brings itself.
//
// Over an area of a level, with P the picture so far and s(p) the place a stroke takes from for p:
//   colour  the colour
//   clone   P(s(p)), between pixels bilinear
//   heal    P(s(p)) + h(p), h the membrane (repair/membrane.h) over the stroke from P(p) - P(s(p)) at its border: the
//           Poisson equation of Perez et al. 2003 with the source's gradients
//   line    P carried across the stroke (repair/carried.h), patches where nothing crosses it
// A stroke that removes takes off what strokes before it brought.
#pragma once

#include <optional>
#include <span>

#include "core/image/rgba_planes.h"
#include "core/mask/context.h"
#include "core/mask/stroke.h"

namespace dimhem::mask {

bool bringsAnything(std::span<const StrokePtr> strokes);
// Lays what they bring over what is laid down so far; nothing where they bring nothing to the area. The strokes must
// outlive it.
std::optional<stage::Step<image::RgbaPlanes>> bringing(std::span<const StrokePtr> strokes, const Area& area,
                                                       Context& context);

// Where a stroke that heals without an offset of its own takes from, in pixels of the photo; none where it finds
// nothing, or does not look for it. `strokes`: up to that one.
std::optional<base::Point> foundOffset(std::span<const StrokePtr> strokes, Context& context);

}  // namespace dimhem::mask
