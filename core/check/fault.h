// What is lost of a pixel when the picture is written: light, depth or colour.
//
// Told from the pixel in the encoding of the file it is written to, so that a colour that a wide profile holds is not
// called lost.
#pragma once

#include <cstdint>

#include "core/colour/types.h"

namespace dimhem::check {

enum class Fault : std::uint8_t {
    none,
    clipped,  // a channel at its full value: nothing brighter can be told from it
    blocked,  // all channels at 3 of 255 or less: nothing darker can be told from it (common practice)
    outside,  // a channel below nothing: the colour is stronger than the file's profile holds
};
inline constexpr int faults = 4;

inline Fault faultOf(const colour::EncodedRgb& written) {
    constexpr double step = 1.0 / 255, half = step / 2;
    const double most = written.r > written.g ? (written.r > written.b ? written.r : written.b)
                                              : (written.g > written.b ? written.g : written.b);
    const double least = written.r < written.g ? (written.r < written.b ? written.r : written.b)
                                               : (written.g < written.b ? written.g : written.b);
    if (most >= 1 - half) return Fault::clipped;
    if (most <= 3 * step + half) return Fault::blocked;
    return least < -half ? Fault::outside : Fault::none;
}

}  // namespace dimhem::check
