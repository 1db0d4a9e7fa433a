// Mixing the outcome of a correction into the picture through its mask.
#pragma once

#include <cstddef>
#include <cstdint>

namespace dimhem::kernel {

struct RgbRow {
    float* red;
    float* green;
    float* blue;
};

struct ConstRgbRow {
    const float* red;
    const float* green;
    const float* blue;
};

// picture += (corrected - picture) * coverage / 65535 * strength, in the domain both are in. A null coverage means full
// coverage. A strength above 1 goes past the corrected value. Pixels of no coverage keep their bits.
void mixRow(RgbRow picture, ConstRgbRow corrected, const std::uint16_t* coverage, float strength, std::size_t count);

}  // namespace dimhem::kernel
