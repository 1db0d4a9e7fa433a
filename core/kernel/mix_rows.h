// Mixing the outcome of a correction into the picture through its mask.
#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <span>
#include <string_view>

#include "core/kernel/rgb_row.h"

namespace dimhem::kernel {

// How none and full are mixed where coverage is partial: P the picture, J what is corrected, m the coverage times the
// strength.
//   even    (1 - m) P + m J, encoded: half covered looks half way
//   light   the same in linear light: as lights add up
//   shadow  1 / ((1 - m) / P + m / J) in linear light: for a gain k, P / (1 - m + m / k), which undoes the soft border
//           of a shadow that lets 1 / k of the light through where it is full
enum class MixingLaw { even, light, shadow };

struct MixingLawInfo {
    MixingLaw law;
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view tip;
};
std::span<const MixingLawInfo> mixingLaws();
std::optional<MixingLaw> mixingLawOf(std::string_view id);
std::string_view idOf(MixingLaw law);

// picture += (corrected - picture) * coverage / 65535 * strength, in the domain both are in. A null coverage means full
// coverage. A strength above 1 goes past the corrected value. Pixels of no coverage keep their bits; those of full
// coverage at full strength get the bits of what is corrected.
void mixRow(EncodedRow picture, ConstEncodedRow corrected, const std::uint16_t* coverage, float strength,
            std::size_t count);

// By the other laws: both rows are encoded; `corrected` is left decoded, as memory.
void mixRowInLight(MixingLaw law, EncodedRow picture, EncodedRow corrected, const std::uint16_t* coverage,
                   float strength, std::size_t count);

}  // namespace dimhem::kernel
