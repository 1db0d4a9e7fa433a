// Where to take texture from to heal a place: of the places nearby whose surroundings look like those of the hole,
// the best.
//
// A source is an offset at which the hole lies on the picture and wholly beside itself. It is judged by the rim: the
// pixels up to `rimPx` beside the hole, against those at the offset, the square of their difference less that of their
// means counting once and that of their means a tenth, since healing takes the tone over; by how far the fine detail of
// the source is from that of the rim; and, a little, by how far off it lies. Sources next to a better one do not count.
#pragma once

#include <optional>

#include "core/image/plane.h"
#include "core/repair/hole.h"

namespace dimhem::repair {

// The offset, in pixels, of the best source but `rank`, counted from 0; of the last there is where there are fewer;
// none where there is none at all.
std::optional<base::Point> findSource(const image::EncodedPlanes& planes, const Hole& hole, int rank);

// How far around the hole a source may lie, for a hole of a size.
int sourceReach(base::Size hole);

}  // namespace dimhem::repair
