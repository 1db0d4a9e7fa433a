// Colours carried into a hole along lines, from both of their ends: what crosses a fold or a wire goes on.
//
// Each pixel of the hole takes the colours at which its line meets what is known, each by the nearness of its end. The
// line follows marks, the nearer the more (by 1/d^2, on the doubled angle); without any, it follows what lies around:
// the weaker direction of the structure tensor (Bigun and Granlund 1987), as in Bornemann and Maerz, "Fast image
// inpainting based on coherence transport", 2007 (cited from memory). Where that shows no direction, something else
// takes its place, by degrees: the membrane (membrane.h) or patches (patches.h).
#pragma once

#include <functional>
#include <span>

#include "core/image/plane.h"
#include "core/repair/hole.h"

namespace dimhem::repair {

// A direction marked on the picture, in its pixels.
struct Mark {
    base::Point from, to;
};

// Fills the hole. `evenPx`: at the ends of a line, the sigma of the Gaussian across it that its colours are the mean
// of, so that noise makes no streaks; 0: one pixel's own. Where nothing is known the planes are left as they are.
// `pause` is called now and then, and may throw to stop the work.
enum class Elsewhere { membrane, patches };
void fillAlong(
    image::EncodedPlanes& planes, const Hole& hole, std::span<const Mark> marks, double evenPx,
    Elsewhere elsewhere = Elsewhere::membrane, const std::function<void()>& pause = [] {});

}  // namespace dimhem::repair
