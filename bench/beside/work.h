// Masked work that general-purpose libraries can express too: exposure and white balance by turns, eight times, through
// one gradient from full at the left edge of the photo to none at the right, mixed in encoded values.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "core/document/document.h"
#include "core/image/plane.h"

namespace dimhem::bench {

struct Work {
    base::Size size;
    const std::uint8_t* rgb;                   // interleaved, encoded sRGB
    std::vector<std::uint16_t> coverage;       // 0..65535
    std::vector<std::array<double, 9>> steps;  // each multiplies linear light by a matrix, row by row
};

// Each gives the encoded outcome, interleaved, 0..1.
std::vector<float> withOpenCv(const Work& work);
std::vector<float> withVips(const Work& work);
std::vector<float> withImageMagick(const Work& work);

}  // namespace dimhem::bench
