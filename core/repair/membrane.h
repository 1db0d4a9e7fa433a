// The membrane: values of a hole that go over smoothly into what is around it.
//
// Solves Laplace's equation on the hole with the known pixels as its border (Perez, Gangnet and Blake, "Poisson image
// editing", 2003, with no guiding field): each pixel of the hole is the mean of its neighbours, of which there are
// fewer at the border of the picture. Conjugate gradients, preconditioned by one multigrid cycle (Trottenberg,
// Oosterlee and Schueller, "Multigrid", 2001, sections 2.4 and 7.8; cited from memory), to a thousandth of the range of
// values or better.
#pragma once

#include <functional>
#include <span>

#include "core/repair/hole.h"

namespace dimhem::repair {

// Fills the hole of each plane, all of the hole's size. Where nothing is known the planes are left as they are. `pause`
// is called now and then, and may throw to stop the work.
void fillMembrane(
    std::span<image::Plane<float>* const> planes, const Hole& hole, const std::function<void()>& pause = [] {});

// One step towards it, from what a hole holds now: so many rounds in which each pixel of it goes most of the way to
// the mean of its neighbours. What comes out at a pixel depends only on what lies as near as there are rounds, so that
// pieces fit together.
void relaxMembrane(image::Plane<float>& plane, const Hole& hole, int rounds);

}  // namespace dimhem::repair
