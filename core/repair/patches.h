// Texture: a hole filled with what patches of the known picture show, so that it looks like its surroundings
// everywhere.
//
// Coarse to fine; on each level, by turns, the best patch is found for each place (Barnes et al., "PatchMatch", 2009)
// and each pixel becomes the weighted mean of what the patches over it say (Wexler, Shechtman and Irani, "Space-time
// completion of video", 2007); both cited from memory. Chance comes from the places alone: the same picture gives the
// same filling.
#pragma once

#include <functional>

#include "core/image/plane.h"
#include "core/repair/hole.h"

namespace dimhem::repair {

inline constexpr int patchRadius = 3;  // of patches of seven by seven

// Fills the hole; `takesFrom`: 1 where patches may come from, besides being known. Where there is not one patch to take
// from, the membrane. `pause` is called now and then, and may throw to stop the work.
void fillWithPatches(
    image::EncodedPlanes& planes, const Hole& hole, const Hole& takesFrom, const std::function<void()>& pause = [] {});

}  // namespace dimhem::repair
