// A hole: the pixels of a picture that are to be filled from those around them.
#pragma once

#include <cstdint>

#include "core/image/plane.h"

namespace dimhem::repair {

using Hole = image::Plane<std::uint8_t>;  // 1 to be filled, 0 known

}  // namespace dimhem::repair
