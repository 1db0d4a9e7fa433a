// Blending what a correction makes with what was there, as in W3C Compositing and Blending Level 1 (sections 10.1 and
// 10.2), on encoded sRGB.
//
// The formulas are made for 0..1: what is beyond is held to that, except in normal, which takes the upper colour as it
// is. Names and order are those of the standard.
#pragma once

#include <optional>
#include <span>
#include <string_view>

#include "core/kernel/rgb_row.h"

namespace dimhem::kernel {

enum class BlendMode {
    normal,
    multiply,
    screen,
    overlay,
    darken,
    lighten,
    colourDodge,
    colourBurn,
    hardLight,
    softLight,
    difference,
    exclusion,
    hue,
    saturation,
    colour,
    luminosity,
};

struct BlendModeInfo {
    BlendMode mode;
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view tip;
};
std::span<const BlendModeInfo> blendModes();  // all of them
std::optional<BlendMode> blendModeOf(std::string_view id);
std::string_view idOf(BlendMode mode);

// upper = B(lower, upper)
void blendRow(BlendMode mode, ConstEncodedRow lower, EncodedRow upper, std::size_t count);

}  // namespace dimhem::kernel
