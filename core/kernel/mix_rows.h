// Mixing the outcome of a correction into the picture through its mask.
#pragma once

#include <cstddef>
#include <cstdint>

#include "core/kernel/rgb_row.h"

namespace dimhem::kernel {

// picture += (corrected - picture) * coverage / 65535 * strength, in the domain both are in. A null coverage means full
// coverage. A strength above 1 goes past the corrected value. Pixels of no coverage keep their bits; those of full
// coverage at full strength get the bits of what is corrected.
void mixRow(EncodedRow picture, ConstEncodedRow corrected, const std::uint16_t* coverage, float strength,
            std::size_t count);

}  // namespace dimhem::kernel
