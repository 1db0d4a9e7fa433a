// The parts of a mask, one combined with another. The mask and the context must outlive the stages.
#pragma once

#include "core/mask/mask.h"

namespace dimhem::mask {

// What the first so many of them make.
Staged<Coverage> firstParts(const Mask& mask, std::size_t parts, const Area& area, Context& context);

// What a part, which is no zone, enters the mask with on all of the area, where that can be told at once.
std::optional<std::uint16_t> uniformOn(const Part& part, const Area& area);

// The same as values over an area of any size, put together from whole tiles.
Staged<image::Plane<float>> firstPartsOver(const Mask& mask, std::size_t parts, const Area& area, Context& context);

}  // namespace dimhem::mask
