// What is connected in a picture of ones and zeros.
#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "core/base/rect.h"
#include "core/image/plane.h"

namespace dimhem::kernel {

// The ones that are connected (8 neighbours) with any of the places; places outside or on zeros start nothing.
image::Plane<std::uint8_t> floodedFrom(const image::Plane<std::uint8_t>& ones, std::span<const base::Point> places);

// One piece of ones that are connected.
struct Component {
    base::Rect bounds;
    int pixels = 0;
};

// Numbers the pieces of ones from 1 (0: not a one) into `labels`, which has the size of `ones`. `neighbours` is 4 or 8.
std::vector<Component> components(const image::Plane<std::uint8_t>& ones, int neighbours,
                                  image::Plane<std::int32_t>& labels);

}  // namespace dimhem::kernel
